import { useState } from 'react';
import {
  HandOff,
  noticeAct,
  noticeAddress,
  noticeDoer,
  noticeNeed,
  noticeTitle,
  noticeWords,
  type NoticeAct,
  type NoticeGroup,
  type NoticeLine,
} from '@crew/contract';
import { Link } from 'react-aria-components';
import styled from 'styled-components';
import { useWho } from '../../session/session.tsx';
import { Baton } from '../../ui/Baton.tsx';
import { Button, ButtonLink } from '../../ui/Button.tsx';
import { Field } from '../../ui/Field.tsx';
import { SmallForm } from '../../ui/form/SmallForm.tsx';
import { Unreadable } from '../../ui/form/typed.ts';
import { useInputForm } from '../../ui/form/use-input-form.ts';
import { HueMark, PersonMark, TaskGlyph } from '../../ui/marks.tsx';
import { dayOf, dayWords, hourWords, timeWords, weekdayOf } from '../../words/format.ts';
import { addToDay, answer, logUsual, markOpened, markRead, pickUp, snoozeUntilTomorrow, unreadOf } from './use-notices.ts';

const Item = styled.li`
  display: grid;
  grid-template-columns: 4px minmax(0, 1fr);
  gap: 10px;
  padding: 10px 16px;
  border-bottom: 1px solid var(--line);
  &:last-child {
    border-bottom: 0;
  }
`;
const Title = styled.div`
  display: flex;
  align-items: center;
  gap: 8px;
  min-width: 0;
  a {
    min-width: 0;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
    font-weight: 600;
    text-decoration: none;
  }
  small {
    flex: 0 1 auto;
    min-width: 60px;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
    font-size: 12.5px;
    color: var(--ink-2);
  }
`;
const Line = styled.div<{ $isRead: boolean }>`
  display: grid;
  grid-template-columns: 24px minmax(0, 1fr) auto 8px;
  gap: 8px;
  align-items: start;
  margin-top: 6px;
  color: ${({ $isRead }) => ($isRead ? 'var(--ink-2)' : 'var(--ink)')};
  overflow-wrap: anywhere;
  > time {
    font-size: 12.5px;
    color: var(--ink-2);
  }
  s {
    color: var(--ink-3);
  }
`;
const Dot = styled.span`
  width: 7px;
  height: 7px;
  margin-top: 6px;
  border-radius: 50%;
  background: var(--ember);
`;
const Acts = styled.div`
  display: flex;
  align-items: center;
  gap: 6px;
  margin-top: 4px;
  padding-left: 32px;
  font-size: 12.5px;
  color: var(--ink-2);
  > :first-child {
    flex: 1;
  }
  b {
    color: var(--ink);
  }
`;

interface EntryProps {
  readonly group: NoticeGroup;
  readonly seesEngagements: boolean;
  readonly onOpen: () => void;
}

/** All that is new about one thing: what others did, what is needed now, and what can be done about it in place. */
export function NoticeEntry({ group, seesEngagements, onOpen }: EntryProps) {
  const { about, engagement, lines } = group;
  const open = (): void => {
    markOpened(lines);
    onOpen();
  };
  const address = noticeAddress(group, seesEngagements);
  return (
    <Item>
      {engagement === null ? <span /> : <HueMark $hue={engagement.hue} />}
      <div>
        <Title>
          {about.kind === 'task' ? <TaskGlyph status={about.status} /> : about.kind === 'handoff' ? <Baton state={about.state} /> : null}
          <Link href={address} onPress={open}>
            {noticeTitle(about)}
          </Link>
          {about.kind === 'engagement' || engagement === null ? null : <small>{engagement.name}</small>}
        </Title>
        {lines.map((line) => (
          <NoticeSentence key={line.ids[0]} line={line} group={group} />
        ))}
        <EntryActs group={group} address={address} onOpen={open} />
      </div>
    </Item>
  );
}

function NoticeSentence({ line, group }: { readonly line: NoticeLine; readonly group: NoticeGroup }) {
  const { name, today, zone } = useWho();
  const { did, change, said } = noticeWords(line, group, { name, today });
  const day = dayOf(line.at, zone);
  return (
    <Line $isRead={line.isRead}>
      {line.by === null ? <span /> : <PersonMark person={{ ...line.by, id: '' }} />}
      <span>
        <strong>{noticeDoer(line)}</strong> {did}
        {change === null ? null : (
          <>
            {' '}
            {change.from === null ? null : <s>{change.from}</s>} → <strong>{change.to}</strong>
          </>
        )}
        {said === null ? null : `: “${said}”`}
      </span>
      <time dateTime={line.at}>{day === today ? timeWords(line.at, zone) : dayWords(day, today)}</time>
      {line.isRead ? <span /> : <Dot role="img" aria-label="unread" />}
    </Line>
  );
}

const Reply = styled.div`
  padding-left: 32px;
  margin-top: 6px;
`;

const NO_ANSWER = new Unreadable('Write your answer.');

/** The question of a handoff that came back is answered where it is read; what else there is to it is in its sheet. */
function AnswerForm({
  about,
  lines,
  onDone,
}: Pick<NoticeGroup, 'lines'> & {
  readonly about: Extract<NoticeGroup['about'], { readonly kind: 'handoff' }>;
  readonly onDone: () => void;
}) {
  const form = useInputForm({
    rules: HandOff,
    typed: { words: '' },
    input: ({ words }) => ({ version: about.version, words: words.trim() === '' ? NO_ANSWER : words }),
    send: async (input) => {
      await answer(about, { input, lines });
      onDone();
    },
  });
  return (
    <Reply>
      <SmallForm form={form} action="Send" onCancel={onDone} label="Answer">
        <Field {...form.bind('words')} label="Your answer" isLong autoFocus />
      </SmallForm>
    </Reply>
  );
}

interface ActsProps {
  readonly group: NoticeGroup;
  readonly address: string;
  readonly onOpen: () => void;
}

function EntryActs({ group, address, onOpen }: ActsProps) {
  const { today } = useWho();
  const [isAnswering, setAnswering] = useState(false);
  const { about, lines } = group;
  const need = noticeNeed(group, today);
  // A read notice that needs nothing is opened by its name.
  if (need === null && unreadOf(lines).length === 0) return null;
  const act = noticeAct(group);
  if (act?.kind === 'answer' && isAnswering && about.kind === 'handoff')
    return <AnswerForm about={about} lines={lines} onDone={() => setAnswering(false)} />;
  return (
    <Acts>
      <span>{need === null ? null : need.isNeeded ? <b>{need.words}</b> : need.words}</span>
      {act === null ? null : <ActButton group={group} act={act} onAnswer={() => setAnswering(true)} />}
      {act === null || about.kind === 'handoff' ? (
        <ButtonLink href={address} onPress={onOpen} aria-label={`Open ${noticeTitle(about)}`}>
          Open
        </ButtonLink>
      ) : null}
      {unreadOf(lines).length === 0 ? null : (
        <Button kind="quiet" onPress={() => snoozeUntilTomorrow(lines)} aria-label={`Put ${noticeTitle(about)} off until tomorrow`}>
          Tomorrow
        </Button>
      )}
    </Acts>
  );
}

/** The one thing that can be done in place; a task opens by its name. */
function ActButton({
  group: { about, lines },
  act,
  onAnswer,
}: {
  readonly group: NoticeGroup;
  readonly act: NoticeAct;
  readonly onAnswer: () => void;
}) {
  const { personId, today } = useWho();
  const title = noticeTitle(about);
  switch (act.kind) {
    case 'pick-up':
      return (
        <Button kind="primary" onPress={() => about.kind === 'handoff' && void pickUp(about, lines)}>
          Pick up
        </Button>
      );
    case 'answer':
      return <Button onPress={onAnswer}>Answer…</Button>;
    case 'add-to-day': {
      const day = act.day === today ? 'today' : weekdayOf(act.day);
      const add = (): void => {
        if (personId !== null) void addToDay(about, { personId, day: act.day, today, lines });
      };
      return (
        <Button onPress={add} aria-label={`Add ${title} to ${day}`}>
          Add to {day}
        </Button>
      );
    }
    case 'log':
      return (
        <Button onPress={() => void logUsual(about, { ...act, lines })} aria-label={`Log ${hourWords(act.minutes)} on ${title}`}>
          Log {hourWords(act.minutes)}
        </Button>
      );
    case 'mark-read':
      return (
        <Button onPress={() => markRead(lines)} aria-label={`Mark ${title} as read`}>
          Mark as read
        </Button>
      );
  }
}
