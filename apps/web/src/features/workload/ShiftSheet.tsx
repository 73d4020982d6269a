import type { IsoDay } from '@crew/core';
import { Trouble, Note, Earlier } from '../../ui/text.tsx';
import type { PersonRef, SuggestedAssignee, Workload } from '@crew/contract';
import { Link } from 'react-aria-components';
import styled from 'styled-components';
import { useWhoShould } from '../../api/queries.ts';
import { Button } from '../../ui/Button.tsx';
import { DayField } from '../../ui/DayField.tsx';
import { Choose } from '../../ui/Field.tsx';
import { Muted } from '../../ui/layout.tsx';
import { Sheet, SheetTitle } from '../../ui/Sheet.tsx';
import { hourWords, spanWords } from '../../words/format.ts';
import { suggestionWords } from '../crew/suggestion-words.ts';
import { EffectWords } from '../task/EffectWords.tsx';
import { FullnessLines } from './FullnessLines.tsx';
import type { Shift, Trial } from './use-shift.ts';

const PlainLink = styled(Link)`
  text-decoration: none;
`;

const NOBODY = 'nobody';

const Fields = styled.div`
  display: flex;
  flex-direction: column;
  gap: 8px;
  margin: 12px 0;
`;
const Actions = styled.div`
  display: flex;
  gap: 8px;
  margin-top: 14px;
`;

interface ShiftSheetProps {
  readonly shift: Shift;
  readonly workload: Workload;
  readonly trial: Trial;
  readonly today: IsoDay;
  readonly onChange: (shift: Shift) => void;
  readonly onClose: () => void;
}

/** A task that is to move or change hands: who could take it, when it begins, and what follows; nothing is saved before it is taken. */
export function ShiftSheet({ shift, workload, trial, today, onChange, onClose }: ShiftSheetProps) {
  const { task } = shift;
  const people = shift.assigneeIds ?? task.assigneeIds;
  const isUntouched = shift.start === null && shift.assigneeIds === null;
  const nameOf = (id: string): string => workload.rows.find((row) => row.person.id === id)?.person.name ?? 'somebody';
  const said =
    shift.assigneeIds === null ? 'moved' : people.length === 0 ? 'is now unassigned' : `goes to ${people.map(nameOf).join(' and ')}`;
  const apply = async (): Promise<void> => {
    if (await trial.apply(`“${task.title}” ${said}.`)) onClose();
  };
  return (
    <Sheet label={`Move or reassign ${task.title}`} line={task.engagement.name} onClose={onClose}>
      <SheetTitle>
        <PlainLink href={`/engagements/${task.engagement.id}?task=${task.id}`}>{task.title}</PlainLink>
      </SheetTitle>
      <Note>
        {hourWords(task.minutes)} left, {spanWords(task.start, task.due, today)}
        {task.hasEstimate ? '' : '; no estimate'}
      </Note>
      <ShiftFields {...{ shift, workload, today, nameOf, onChange }} />
      {isUntouched ? (
        <Note>Choose a person or a day: the effect is shown here first, and nothing is saved until you apply it.</Note>
      ) : (
        <Outcome trial={trial} taskId={task.id} today={today} />
      )}
      <Actions>
        <Button
          kind="primary"
          isDisabled={isUntouched || trial.tried === undefined || trial.isWorking || trial.isTaking}
          onPress={() => void apply()}
        >
          Apply
        </Button>
        <Button onPress={onClose}>Cancel</Button>
      </Actions>
    </Sheet>
  );
}

interface FieldsProps extends Pick<ShiftSheetProps, 'shift' | 'workload' | 'today' | 'onChange'> {
  readonly nameOf: (personId: string) => string;
}

/** Who does it and on which day it begins. */
function ShiftFields({ shift, workload, today, nameOf, onChange }: FieldsProps) {
  const { task } = shift;
  const { data: who } = useWhoShould(task.id);
  const people = shift.assigneeIds ?? task.assigneeIds;
  const crew = workload.rows.map((row) => row.person);
  const give = (id: string): void => {
    // The first one's part changes hands; who shares it keeps theirs.
    const next = id === NOBODY ? [] : [id, ...people.slice(1).filter((other) => other !== id)];
    onChange({ ...shift, assigneeIds: next.join() === task.assigneeIds.join() ? null : next });
  };
  return (
    <Fields>
      <Choose label="Who does it" isTight choices={choicesOf(who?.people ?? [], crew)} value={people[0] ?? NOBODY} onChange={give} />
      {people.length < 2 ? null : <Muted>shared with {people.slice(1).map(nameOf).join(', ')}, who keep their share</Muted>}
      {task.isBegun ? (
        <Note $isSmall>It is under way, so its start stays.</Note>
      ) : (
        <DayField
          label={task.fixedDay === null ? 'Starts on' : 'Fixed day'}
          isTight
          today={today}
          value={shift.start ?? task.start}
          onChange={(day) => onChange({ ...shift, start: day === '' || day === task.start ? null : day })}
        />
      )}
    </Fields>
  );
}

function Outcome({ trial, taskId, today }: { readonly trial: Trial; readonly taskId: string; readonly today: IsoDay }) {
  if (trial.problem !== null) return <Trouble words={trial.problem} />;
  if (trial.tried === undefined) return <Note>Working out what follows…</Note>;
  const { effects, people } = trial.tried;
  return (
    <Earlier $isEarlier={trial.isWorking}>
      {effects.map(({ engagement, effect }) => (
        <EffectWords key={engagement.id} effect={effect} today={today} taskId={taskId} />
      ))}
      <FullnessLines people={people} today={today} />
    </Earlier>
  );
}

/** Those who could do it first, with the reason; then everybody else. */
function choicesOf(suggested: readonly SuggestedAssignee[], crew: readonly PersonRef[]) {
  const known = new Set(suggested.map(({ person }) => person.id));
  return [
    ...suggested.map((suggestion) => ({ id: suggestion.person.id, name: suggestion.person.name, detail: suggestionWords(suggestion) })),
    ...crew
      .filter((person) => !known.has(person.id))
      .map((person) => ({ id: person.id, name: person.name, detail: known.size === 0 ? '' : 'does not hold its role, or is away' })),
    { id: NOBODY, name: 'Unassigned', detail: '' },
  ].map(({ detail, ...choice }) => (detail === '' ? choice : { ...choice, detail }));
}
