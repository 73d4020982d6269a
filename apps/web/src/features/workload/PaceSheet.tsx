import { Note } from '../../ui/text.tsx';
import type { IsoDay } from '@crew/core';
import type { PlansTried, SeriesView, Workload } from '@crew/contract';
import { useEffect, useState } from 'react';
import { Link } from 'react-aria-components';
import styled from 'styled-components';
import { useSeriesList } from '../../api/queries.ts';
import { Choose } from '../../ui/Field.tsx';
import { Loading } from '../../ui/layout.tsx';
import { Segmented } from '../../ui/Segmented.tsx';
import { Sheet, SheetTitle } from '../../ui/Sheet.tsx';
import { RhythmTrial } from '../series/RhythmSheet.tsx';
import { RhythmSlots } from '../series/RhythmSlots.tsx';
import { rhythmOn, rhythmWords } from '../series/series-words.ts';
import { useRhythmTry } from '../series/use-rhythm-try.ts';

const KindField = styled.div`
  margin: 4px 0 10px;
`;

const WhatField = styled.div`
  margin: 10px 0 9px;
`;

/** New work, or more of what repeats: both are tried over the same load. */
export function WhatIsTried({ value, onChange }: { readonly value: 'try' | 'pace'; readonly onChange: () => void }) {
  return (
    <KindField>
      <Segmented
        label="What is tried"
        parts={[
          { id: 'try', name: 'A new engagement' },
          { id: 'pace', name: 'Change pace' },
        ]}
        value={value}
        onChange={(id) => (id === value ? undefined : onChange())}
      />
    </KindField>
  );
}

interface PaceSheetProps {
  readonly window: Pick<Workload, 'from' | 'to'>;
  readonly today: IsoDay;
  /** Whose load would be another, for the grid. */
  readonly onTried: (people: PlansTried['people'] | null) => void;
  readonly onNew: () => void;
  readonly onClose: () => void;
}

/** A faster pace over the real load: what would three a week cost? Nothing is saved before it is taken. */
export function PaceSheet({ window, today, onTried, onNew, onClose }: PaceSheetProps) {
  const { data: all } = useSeriesList();
  const [chosen, setChosen] = useState<string | null>(null);
  const going = (all ?? []).filter(({ stoppedOn }) => stoppedOn === null);
  const series = going.find(({ id }) => id === chosen) ?? going.find(({ kind }) => kind === 'line') ?? going[0];
  return (
    <Sheet label="Try another pace" line="Nothing is saved" onClose={onClose}>
      <WhatIsTried value="pace" onChange={onNew} />
      <SheetTitle>What would a faster pace cost?</SheetTitle>
      {all === undefined ? (
        <Loading rows={4} />
      ) : series === undefined ? (
        <Note>
          Nothing repeats yet. <Link href="/engagements/repeating">New repeating work</Link>, and its pace can be tried here.
        </Note>
      ) : (
        <>
          <WhatField>
            <Choose
              label="Of what"
              isTight
              choices={going.map((one) => {
                const rhythm = rhythmOn(one.rhythms, today);
                return { id: one.id, name: one.name, detail: rhythm === undefined ? '' : rhythmWords(rhythm, today) };
              })}
              value={series.id}
              onChange={setChosen}
            />
          </WhatField>
          <Pace key={series.id} series={series} window={window} today={today} onTried={onTried} onClose={onClose} />
        </>
      )}
    </Sheet>
  );
}

function Pace({ series, window, today, onTried, onClose }: Omit<PaceSheetProps, 'onNew'> & { readonly series: SeriesView }) {
  const trying = useRhythmTry(series, today, window);
  const people = trying.tried?.people ?? null;
  // The grid beside the sheet shows it too, as long as the sheet is there.
  useEffect(() => {
    onTried(people);
    return () => onTried(null);
  }, [people, onTried]);
  return (
    <>
      <RhythmSlots series={series} trying={trying} today={today} />
      <RhythmTrial series={series} trying={trying} today={today} onApplied={onClose} />
    </>
  );
}
