import type { IsoDay } from '@crew/core';
import { Stack } from '../../ui/text.tsx';
import { ToggleButton, ToggleButtonGroup } from 'react-aria-components';
import styled from 'styled-components';
import { DayField } from '../../ui/DayField.tsx';
import { Choose, Field } from '../../ui/Field.tsx';
import { WEEKDAY_NAMES } from '../../words/rhythm.ts';
import { idOf, monthDayChoices, monthDayFrom, wholeOf, type RuleDraft } from './rule-draft.ts';

const Sentence = styled.div`
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 7px 8px;
`;
const Days = styled(ToggleButtonGroup)`
  display: inline-flex;
  gap: 3px;
`;
const Day = styled(ToggleButton)`
  min-width: 32px;
  min-height: 32px;
  padding: 0 4px;
  border: 1px solid var(--joint);
  border-radius: 5px;
  background: var(--panel);
  font-size: 12px;
  font-weight: 600;
  color: var(--ink-2);
  cursor: pointer;
  &[data-selected] {
    background: var(--petrol);
    border-color: var(--petrol);
    color: var(--panel);
  }
`;

interface SlotsProps {
  readonly draft: RuleDraft;
  readonly onChange: (draft: RuleDraft) => void;
  /** The day the slots are filled from. */
  readonly day: IsoDay;
  readonly today: IsoDay;
  /** What ends it when no day does: "the engagement ends". */
  readonly lasting: string;
}

/** How often, as a sentence with slots: every so many days, weeks or months, on these days, until then. */
export function RuleSlots(props: SlotsProps) {
  return (
    <Stack gap={8}>
      <RhythmSentence {...props} />
      <EndingSentence {...props} />
    </Stack>
  );
}

/** A slot of a sentence, as wide as what goes into it, in pixels. */
const Slot = styled.div<{ $width: number }>`
  width: ${({ $width }) => $width}px;
`;

const unitsFor = (interval: string) => (['day', 'week', 'month'] as const).map((id) => ({ id, name: interval === '1' ? id : `${id}s` }));

function RhythmSentence({ draft, onChange, day }: SlotsProps) {
  const set = (more: Partial<RuleDraft>): void => onChange({ ...draft, ...more });
  return (
    <Sentence>
      <span>Every</span>
      <Slot $width={46}>
        <Field
          label=""
          aria-label="How many"
          isTight
          inputMode="numeric"
          value={draft.interval}
          onChange={(interval) => set({ interval })}
          {...(wholeOf(draft.interval) === null ? { isInvalid: true } : {})}
        />
      </Slot>
      <Slot $width={96}>
        <Choose
          label="Days, weeks or months"
          isLabelHidden
          isTight
          choices={unitsFor(draft.interval)}
          value={draft.unit}
          onChange={(unit) => set({ unit })}
        />
      </Slot>
      {draft.unit === 'week' ? <Weekdays chosen={draft.weekdays} onChange={(weekdays) => set({ weekdays })} /> : null}
      {draft.unit === 'month' ? (
        <>
          <span>on</span>
          <Slot $width={176}>
            <Choose
              label="Which day of the month"
              isLabelHidden
              isTight
              choices={monthDayChoices(day, draft.monthDay)}
              value={idOf(draft.monthDay)}
              onChange={(id) => set({ monthDay: monthDayFrom(id) })}
            />
          </Slot>
        </>
      ) : null}
    </Sentence>
  );
}

type Ending = RuleDraft['ending'];
const FIRST_ENDINGS: Readonly<Record<Ending['kind'], Ending>> = {
  open: { kind: 'open' },
  until: { kind: 'until', day: '' },
  times: { kind: 'times', times: '6' },
};

function EndingSentence({ draft, onChange, today, lasting }: SlotsProps) {
  const set = (ending: Ending): void => onChange({ ...draft, ending });
  const { ending } = draft;
  const choices = [
    { id: 'open', name: `until ${lasting}` },
    { id: 'until', name: 'until a day' },
    { id: 'times', name: 'so many times' },
  ] as const;
  return (
    <Sentence>
      <Slot $width={216}>
        <Choose
          label="When it ends"
          isLabelHidden
          isTight
          choices={choices}
          value={ending.kind}
          onChange={(kind) => set(FIRST_ENDINGS[kind])}
        />
      </Slot>
      {ending.kind === 'until' ? (
        <Slot $width={122}>
          <DayField
            label=""
            aria-label="Last day"
            isTight
            today={today}
            value={ending.day}
            onChange={(day) => set({ kind: 'until', day })}
          />
        </Slot>
      ) : ending.kind === 'times' ? (
        <Slot $width={56}>
          <Field
            label=""
            aria-label="How many times"
            isTight
            inputMode="numeric"
            value={ending.times}
            onChange={(times) => set({ kind: 'times', times })}
            {...(wholeOf(ending.times) === null ? { isInvalid: true } : {})}
          />
        </Slot>
      ) : null}
    </Sentence>
  );
}

/** Which weekdays; at least one stays chosen. */
export function Weekdays({
  chosen,
  onChange,
}: {
  readonly chosen: readonly number[];
  readonly onChange: (days: readonly number[]) => void;
}) {
  return (
    <Days
      aria-label="On which days"
      selectionMode="multiple"
      disallowEmptySelection
      selectedKeys={chosen.map(String)}
      onSelectionChange={(keys) => onChange([...keys].map(Number).sort())}
    >
      {WEEKDAY_NAMES.map((name, weekday) => (
        <Day key={name} id={String(weekday)} aria-label={name}>
          {name.slice(0, 2)}
        </Day>
      ))}
    </Days>
  );
}
