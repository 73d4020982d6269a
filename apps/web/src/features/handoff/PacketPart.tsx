import type { HandoffSheet as Handoff } from '@crew/contract';
import type { ReactNode } from 'react';
import { useWho } from '../../session/session.tsx';
import { Button } from '../../ui/Button.tsx';
import { TaskGlyph } from '../../ui/marks.tsx';
import { Toned } from '../../ui/text.tsx';
import { count, fileSize, hourWords, shortDay } from '../../words/format.ts';
import type { HandoffProps } from './NextStep.tsx';
import { Line, List } from './parts.tsx';

interface PartProps {
  readonly handoff: Handoff;
  /** The button that leaves a thing out, for whoever hands off. */
  readonly leaveOut: (id: string, name: string) => ReactNode;
}

/** What goes along with a handoff; whoever hands off may leave things out. */
export function PacketPart({ handoff, drafting: { draft, write } }: HandoffProps) {
  const left = draft.without;
  const leaveOut = (id: string, name: string) =>
    handoff.canHandOff ? (
      <Button kind="quiet" aria-label={`Leave ${name} out of the packet`} onPress={() => write({ without: [...left, id] })}>
        ✕
      </Button>
    ) : null;
  return (
    <>
      {handoff.packetAt === null ? null : <Line>As it was at the handoff.</Line>}
      <List>
        <Tasks handoff={without(handoff, left)} leaveOut={leaveOut} />
        <Said handoff={without(handoff, left)} leaveOut={leaveOut} />
        <FilesAndPeople handoff={without(handoff, left)} leaveOut={leaveOut} />
      </List>
      {left.length === 0 ? null : (
        <Line>
          {count(left.length, 'thing is', 'things are')} left out.{' '}
          <Button kind="text" onPress={() => write({ without: [] })}>
            Restore
          </Button>
        </Line>
      )}
    </>
  );
}

function without(handoff: Handoff, left: readonly string[]): Handoff {
  const kept = <One extends { readonly id: string }>(list: readonly One[]): One[] => list.filter(({ id }) => !left.includes(id));
  const { doneTasks, openTasks, decisions, questions, files } = handoff;
  return {
    ...handoff,
    ...{
      doneTasks: kept(doneTasks),
      openTasks: kept(openTasks),
      decisions: kept(decisions),
      questions: kept(questions),
      files: kept(files),
    },
  };
}

/** Its tasks; decisions and questions are listed as those, not as tasks once more. */
function Tasks({ handoff: { doneTasks, openTasks, decisions, questions, packetAt }, leaveOut }: PartProps) {
  const { today } = useWho();
  const told = new Set([...decisions, ...questions].map(({ id }) => id));
  const isWork = ({ id }: { readonly id: string }): boolean => !told.has(id);
  return (
    <>
      {doneTasks.filter(isWork).map(({ id, title, who, finish }) => (
        <li key={id}>
          <TaskGlyph status="done" />
          <span>{title}</span>
          <span>{[...who.map((name) => name.split(' ')[0]), shortDay(finish, today)].join(' · ')}</span>
          {leaveOut(id, title)}
        </li>
      ))}
      {openTasks.filter(isWork).map(({ id, title, status }) => (
        <li key={id}>
          <TaskGlyph status={status} />
          <span>{title}</span>
          <Toned $tone="waiting">{packetAt === null ? 'still open' : 'was open'}</Toned>
        </li>
      ))}
    </>
  );
}

const SAID_WORDS = { decided: 'Decided', answered: 'Client has answered', confirmed: 'Confirmed', round: 'Started again' } as const;

function Said({ handoff: { decisions, questions }, leaveOut }: PartProps) {
  const { today } = useWho();
  return (
    <>
      {decisions.map(({ id, kind, text, by, day }) => (
        <li key={`decided ${id}`}>
          <span>
            {SAID_WORDS[kind]}: <strong>{text}</strong>
          </span>
          <span>{[...(by === null ? [] : [by]), shortDay(day, today)].join(' · ')}</span>
          {leaveOut(id, text)}
        </li>
      ))}
      {questions.map(({ id, text, who }) => (
        <li key={`asked ${id}`}>
          <span>
            Open question: <strong>{text}</strong>
          </span>
          <span>
            <Toned $tone="waiting">{who === null ? 'nobody is asked yet' : `with ${who}`}</Toned>
          </span>
          {leaveOut(id, text)}
        </li>
      ))}
    </>
  );
}

/** "Mirela 6.5 h"; of somebody who logged nothing the name. */
const involvedWords = ({ person, minutes }: Handoff['involved'][number]): string =>
  [person.name.split(' ')[0], ...(minutes === 0 ? [] : [hourWords(minutes)])].join(' ');

function FilesAndPeople({ handoff: { files, involved }, leaveOut }: PartProps) {
  return (
    <>
      {files.map(({ id, name, task, bytes }) => (
        <li key={id}>
          <a href={`/api/files/${id}`}>{name}</a>
          <span>{[task, fileSize(bytes)].join(' · ')}</span>
          {leaveOut(id, name)}
        </li>
      ))}
      {involved.length === 0 ? null : (
        <li>
          <span>Who was involved</span>
          <span>{involved.map(involvedWords).join(', ')}</span>
        </li>
      )}
    </>
  );
}
