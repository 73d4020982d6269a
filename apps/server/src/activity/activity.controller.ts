import { Controller, Get, Query } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import type { IsoDay } from '@crew/core';
import { EVENT_SUBJECT, HISTORY_PART, type EventSubject, type HistoryPage, type HistoryPart } from '@crew/contract';
import { Answers } from '../platform/answers.ts';
import { OptionalChoice, OptionalDay, OptionalEventId, OptionalId } from '../platform/query-pipes.ts';
import { Refusal } from '../platform/refusal.ts';
import { Allow, Caller, type Who } from '../platform/rights.ts';
import { ReadHistory } from './read-history.ts';

@ApiTags('history')
@Controller('history')
export class ActivityController {
  private readonly history: ReadHistory;
  constructor(history: ReadHistory) {
    this.history = history;
  }

  /**
   * What happened, the newest first, 30 at a time: to one thing (`subject` and `id`), by one change,
   * in an engagement, by a person, of a kind (`part`), on some days, or everything. `before` asks for
   * the page after the last one read. For a thing, a change or a kind each event is a line; otherwise
   * what one change did to an engagement is one line. A freelancer sees the history of own tasks only.
   */
  @Get()
  @Answers('HistoryPage')
  @Allow('history.read')
  read(
    @Caller() who: Who,
    @Query('subject', new OptionalChoice(EVENT_SUBJECT)) subject: EventSubject | undefined,
    @Query('id', OptionalId) id: string | undefined,
    @Query('change', OptionalId) changeId: string | undefined,
    @Query('engagement', OptionalId) engagementId: string | undefined,
    @Query('person', OptionalId) personId: string | undefined,
    @Query('part', new OptionalChoice(HISTORY_PART)) part: HistoryPart | undefined,
    @Query('rule', OptionalId) ruleId: string | undefined,
    @Query('from', OptionalDay) from: IsoDay | undefined,
    @Query('to', OptionalDay) to: IsoDay | undefined,
    @Query('before', OptionalEventId) before: string | undefined,
  ): Promise<HistoryPage> {
    if ((subject === undefined) !== (id === undefined))
      throw new Refusal('invalid-input', 'Give both what kind of thing it is (subject) and its id.', {
        field: subject === undefined ? 'subject' : 'id',
      });
    return this.history.page(who, {
      ...(subject === undefined || id === undefined ? {} : { subject: { kind: subject, id } }),
      ...(changeId === undefined ? {} : { changeId }),
      ...(engagementId === undefined ? {} : { engagementId }),
      ...(personId === undefined ? {} : { personId }),
      ...(part === undefined ? {} : { part }),
      ...(ruleId === undefined ? {} : { ruleId }),
      ...(from === undefined ? {} : { from }),
      ...(to === undefined ? {} : { to }),
      ...(before === undefined ? {} : { before }),
    });
  }
}
