import { Controller, Get, Param, Post, Res } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import type { ForecastLine, ForecastState } from '@crew/contract';
import type { Response } from 'express';
import { PathId } from '../platform/query-pipes.ts';
import { Answers } from '../platform/answers.ts';
import { errorBodyOf } from '../platform/error-filter.ts';
import { openLines } from '../platform/lines.ts';
import { Allow, Caller, type Who } from '../platform/rights.ts';
import { KeepForecast } from './keep-forecast.ts';

/** How often progress is sent: more lines would not help anybody. */
const TELL_EVERY = 1000;

@ApiTags('engagements')
@Controller('engagements/:id/forecast')
@Allow('forecast.use')
export class ForecastController {
  private readonly keeping: KeepForecast;
  constructor(keeping: KeepForecast) {
    this.keeping = keeping;
  }

  /** The last forecast, and whether the facts have changed since. */
  @Get()
  @Answers('ForecastState')
  read(@Caller() who: Who, @Param('id', PathId) id: string): Promise<ForecastState> {
    return this.keeping.read(who, id);
  }

  /** Computes it anew, answering its progress line by line (application/x-ndjson); closing the connection stops it. */
  @Post()
  @Answers('ForecastLine')
  async make(@Caller() who: Who, @Param('id', PathId) id: string, @Res() response: Response): Promise<void> {
    const stopping = new AbortController();
    response.on('close', () => stopping.abort());
    const write = openLines<ForecastLine>(response);
    let told = 0;
    try {
      const onRuns = (done: number, of: number): void => {
        if (done - told < TELL_EVERY) return;
        told = done;
        write({ kind: 'running', done, of });
      };
      write({ kind: 'made', forecast: await this.keeping.make(who, id, { signal: stopping.signal, onRuns }) });
    } catch (error) {
      if (stopping.signal.aborted) return;
      if (!response.headersSent) throw error;
      write({ kind: 'refused', refusal: errorBodyOf(error) });
    }
    response.end();
  }
}
