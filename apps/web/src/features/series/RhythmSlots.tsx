import { Muted, Fixed } from '../../ui/layout.tsx';
import type { IsoDay } from '@crew/core';
import { Stack } from '../../ui/text.tsx';
import type { SeriesView } from '@crew/contract';
import { useState } from 'react';
import styled from 'styled-components';
import { useCalendar } from '../../api/queries.ts';
import { DayField } from '../../ui/DayField.tsx';
import { Choose, Field } from '../../ui/Field.tsx';
import { RuleSlots, Weekdays } from './RuleSlots.tsx';
import type { RhythmTrying } from './use-rhythm-try.ts';

const Sentence = styled.div`
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 7px 8px;
`;
const WORKING_WEEK = [450, 450, 450, 450, 450, 0, 0];

/** How often from when on: a pace for a line, a rule for what repeats. */
export function RhythmSlots({
  series,
  trying,
  today,
}: {
  readonly series: SeriesView;
  readonly trying: RhythmTrying;
  readonly today: IsoDay;
}) {
  const { asked, change } = trying;
  return (
    <Stack>
      {series.kind === 'line' && asked.draft.unit === 'week' ? (
        <PaceSlots trying={trying} />
      ) : (
        <RuleSlots draft={asked.draft} onChange={(draft) => change({ draft })} day={asked.day} today={today} lasting="somebody stops it" />
      )}
      <Fixed $width={170}>
        <DayField label="From" isTight today={today} value={asked.from} onChange={(from) => (from === '' ? undefined : change({ from }))} />
      </Fixed>
    </Stack>
  );
}

const WEEKS = ['1', '2', '3', '4'];

/** "3 a week, on Mo We Fr": the number spreads the days, the days make the number. */
function PaceSlots({ trying }: { readonly trying: RhythmTrying }) {
  const { asked, change, setUnits } = trying;
  const { data: calendar } = useCalendar();
  const [typed, setTyped] = useState<string | null>(null);
  const units = asked.draft.weekdays.length * asked.each;
  const week = calendar?.week ?? WORKING_WEEK;
  const type = (text: string): void => {
    setTyped(text);
    if (/^[1-9]\d?$/.test(text.trim()) && Number(text) <= 50) setUnits(Number(text), week);
  };
  const isWrong = typed !== null && !(/^[1-9]\d?$/.test(typed.trim()) && Number(typed) <= 50);
  return (
    <>
      <Sentence>
        <Fixed $width={52}>
          <Field
            label=""
            aria-label="How many"
            isTight
            inputMode="numeric"
            value={typed ?? String(units)}
            onChange={type}
            onBlur={() => (isWrong ? undefined : setTyped(null))}
            {...(isWrong ? { isInvalid: true } : {})}
          />
        </Fixed>
        <Fixed $width={150}>
          <Choose
            label="In how many weeks"
            isLabelHidden
            isTight
            choices={WEEKS.map((weeks) => ({ id: weeks, name: weeks === '1' ? 'a week' : `every ${weeks} weeks` }))}
            value={asked.draft.interval}
            onChange={(interval) => change({ draft: { ...asked.draft, interval } })}
          />
        </Fixed>
        {asked.each > 1 ? <Muted>{asked.each} at a time</Muted> : null}
      </Sentence>
      <Sentence>
        <Weekdays
          chosen={asked.draft.weekdays}
          onChange={(weekdays) => {
            setTyped(null);
            change({ draft: { ...asked.draft, weekdays } });
          }}
        />
      </Sentence>
    </>
  );
}
