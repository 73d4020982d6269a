import type { DryRun } from '@crew/contract';
import type { IsoDay } from '@crew/core';
import { Dialog, DialogTrigger } from 'react-aria-components';
import styled from 'styled-components';
import { Button } from '../../ui/Button.tsx';
import { DayField } from '../../ui/DayField.tsx';
import { PopoverPanel } from '../../ui/Field.tsx';
import { Panel, Push } from '../../ui/layout.tsx';
import { Segmented } from '../../ui/Segmented.tsx';
import { Toned } from '../../ui/text.tsx';
import { count, dayWords, hours, hourWords } from '../../words/format.ts';
import { Unestimated } from '../../ui/Unestimated.tsx';

const Run = styled(Panel)`
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 4px 22px;
  padding: 9px 14px;
  margin-bottom: 12px;
  strong {
    font-weight: 650;
  }
`;

const DayWidth = styled.div`
  width: 168px;
`;
const Effort = styled(Button)`
  color: var(--ink);
  font-weight: 400;
`;
const Roles = styled(Dialog)`
  min-width: 230px;
  padding: 8px 12px;
  outline: none;
`;
const RoleLine = styled.p`
  display: flex;
  justify-content: space-between;
  gap: 18px;
`;
const Outcome = styled(Toned)`
  font-weight: 600;
`;

interface RunProps {
  readonly run: DryRun;
  readonly day: IsoDay | '';
  readonly isBack: boolean;
  readonly problem: string | undefined;
  readonly today: IsoDay;
  readonly onAsk: (mode: 'start' | 'promise', day: IsoDay) => void;
}

/** The template scheduled on the real calendar beside the real load: nothing is saved. */
export function DryRunBar({ run, day, isBack, problem, today, onAsk }: RunProps) {
  return (
    <Run aria-label="Dry run">
      <Segmented
        label="Plan from"
        parts={[
          { id: 'start', name: 'From start date' },
          { id: 'promise', name: 'Back from promised date' },
        ]}
        value={isBack ? 'promise' : 'start'}
        onChange={(mode) => onAsk(mode, mode === 'promise' ? run.finish : run.start)}
      />
      <DayWidth>
        <DayField
          isTight
          label=""
          aria-label={isBack ? 'Promised date' : 'Start'}
          today={today}
          value={day === '' ? run.start : day}
          onChange={(next) => (next === '' ? undefined : onAsk(isBack ? 'promise' : 'start', next))}
          error={problem}
        />
      </DayWidth>
      <span>
        {isBack ? 'start by' : 'finishes'} <strong>{dayWords(isBack ? run.start : run.finish, today)}</strong>
      </span>
      {run.late === null || !isBack ? null : (
        <Outcome $tone="bad">
          {count(run.late.days, 'working day')} too late: starting {dayWords(run.late.start, today)}, it ends{' '}
          {dayWords(run.late.finish, today)}
        </Outcome>
      )}
      <EffortByRole run={run} />
      <Unestimated {...run.unestimated} />
      <span>
        skips <strong>{count(run.closedDays, 'closed day')}</strong>
      </span>
      <Push />
      <Outcome $tone={run.overloads.length > 0 ? 'bad' : 'good'}>{overloadWords(run, today)}</Outcome>
    </Run>
  );
}

function EffortByRole({ run }: { readonly run: DryRun }) {
  return (
    <DialogTrigger>
      <Effort kind="text">
        effort <strong>{run.effortMinutes === 0 ? 'not given' : hourWords(run.effortMinutes)}</strong> <span aria-hidden="true">▾</span>
      </Effort>
      <PopoverPanel>
        <Roles aria-label="Effort by role">
          {run.effortByRole.map(({ role, minutes }) => (
            <RoleLine key={role}>
              <span>{role}</span>
              <strong>{hourWords(minutes)}</strong>
            </RoleLine>
          ))}
        </Roles>
      </PopoverPanel>
    </DialogTrigger>
  );
}

function overloadWords(run: DryRun, today: IsoDay): string {
  const first = [...run.overloads].sort((left, right) => right.minutes - left.minutes)[0];
  if (first === undefined) return 'Nobody would be overloaded';
  const others = run.overloads.length - 1;
  return `${first.person.name.split(' ')[0]} would go ${hours(first.minutes)} h over from ${dayWords(first.firstDay, today)}${others > 0 ? `; ${count(others, 'other')} too` : ''}`;
}
