import type { IsoDay } from '@crew/core';
import { Trouble, Note, Earlier } from '../../ui/text.tsx';
import { backBy, perform, type Step } from '../../session/perform.ts';
import type { RhythmChanged, SeriesView } from '@crew/contract';
import { useState } from 'react';
import styled from 'styled-components';
import { call } from '../../api/client.ts';
import { Button } from '../../ui/Button.tsx';
import { Sheet, SheetTitle } from '../../ui/Sheet.tsx';
import { count, dayWords } from '../../words/format.ts';
import { RhythmAnswer } from './RhythmAnswer.tsx';
import { RhythmSlots } from './RhythmSlots.tsx';
import { rhythmOn, rhythmWords } from './series-words.ts';
import { useRhythmTry, type RhythmTrying } from './use-rhythm-try.ts';

const NewRhythmButton = styled(Button)`
  margin-top: 13px;
`;

/** Another rhythm from a day on: its effect is shown before it is applied. */
export function RhythmSheet({
  series,
  today,
  onClose,
}: {
  readonly series: SeriesView;
  readonly today: IsoDay;
  readonly onClose: () => void;
}) {
  const trying = useRhythmTry(series, today, null);
  return (
    <Sheet label="Change pace" line={`${series.name} · nothing is saved yet`} onClose={onClose}>
      <SheetTitle>{series.kind === 'line' ? 'How many a week?' : 'How often?'}</SheetTitle>
      <RhythmSlots series={series} trying={trying} today={today} />
      <RhythmTrial series={series} trying={trying} today={today} onApplied={onClose} />
    </Sheet>
  );
}

interface TrialProps {
  readonly series: SeriesView;
  readonly trying: RhythmTrying;
  readonly today: IsoDay;
  readonly onApplied: () => void;
}

/** The preview of a rhythm, and the button that applies it. */
export function RhythmTrial({ series, trying, today, onApplied }: TrialProps) {
  const { asked, rule, tried, problem, isSame, isWorking } = trying;
  const [trouble, setTrouble] = useState<string | null>(null);
  const [isBusy, setBusy] = useState(false);
  const present = rhythmOn(series.rhythms, asked.from);
  const apply = async (): Promise<void> => {
    setBusy(true);
    setTrouble(null);
    const step = rhythmStep(series, { from: asked.from, rule: rule ?? '', each: asked.each }, today);
    const { isDone } = await perform({ ...step, onTrouble: setTrouble });
    if (isDone) onApplied();
    else setBusy(false);
  };
  if (problem !== null) return <Trouble words={problem} />;
  if (isSame || rule === null)
    return (
      <Note>
        {isSame
          ? `Now it is ${present === undefined ? 'nothing' : rhythmWords(present, today)}. Choose another pace to see what it would cost.`
          : 'Fill in every slot with a whole number or a day.'}
      </Note>
    );
  return (
    <>
      {tried === undefined ? (
        <Note>Comparing with the workload…</Note>
      ) : (
        <Earlier $isEarlier={isWorking} aria-live="polite">
          <RhythmAnswer tried={tried} today={today} onFrom={(from) => trying.change({ from })} />
        </Earlier>
      )}
      <Trouble words={trouble} />
      <NewRhythmButton kind="primary" isDisabled={tried === undefined || isBusy} onPress={() => void apply()}>
        Apply: {rhythmWords({ from: asked.from, rule, each: asked.each }, today)} from {dayWords(asked.from, today)}
      </NewRhythmButton>
    </>
  );
}

/** Applies a rhythm: the notice says how many units were removed and added, and undoes it. */
function rhythmStep(
  series: SeriesView,
  rhythm: { readonly from: IsoDay; readonly rule: string; readonly each: number },
  today: IsoDay,
): Step<RhythmChanged> {
  const before = series.rhythms.find(({ from }) => from === rhythm.from);
  const path = `/series/${series.id}/rhythms`;
  return {
    send: () => call<RhythmChanged>('POST', path, { version: series.version, ...rhythm }),
    said: ({ removed, made }) => {
      const went = removed === 0 ? '' : `${count(removed, 'one', 'ones')} not yet started removed, `;
      return `“${series.name}”: ${rhythmWords(rhythm, today)} from ${dayWords(rhythm.from, today)}. ${went}${made} created in advance.`;
    },
    undo: ({ series: { version } }) =>
      backBy(() =>
        before === undefined
          ? call('POST', `${path}/cancel`, { version, from: rhythm.from })
          : call('POST', path, { version, from: before.from, rule: before.rule, each: before.each }),
      ),
  };
}
