import type { IsoDay } from '@crew/core';
import { can, type RhythmView, type SeriesView } from '@crew/contract';
import { useCallback } from 'react';
import { useParams } from 'react-router';
import styled from 'styled-components';
import { useSeries } from '../../api/queries.ts';
import { useOpenSheet } from '../../session/open-sheet.ts';
import { useWho } from '../../session/session.tsx';
import { historyOf, ThingHistory } from '../history/ThingHistory.tsx';
import { Button, ButtonLink } from '../../ui/Button.tsx';
import { Chart } from '../../ui/Chart.tsx';
import { ErrorNote, Loading, Muted, Page, PageHead, Panel, PanelHead, Push, WithSheet, PanelBody } from '../../ui/layout.tsx';
import { HueMark, PersonMark, Tag } from '../../ui/marks.tsx';
import { narrow } from '../../ui/tokens.ts';
import { shortDay } from '../../words/format.ts';
import { ON_CLOSED_WORDS } from '../../words/rhythm.ts';
import { MonthTicks, TodayLine } from '../engagement/track-list.tsx';
import { retainerLabel, retainerOption } from './hours-chart.ts';
import { RhythmSheet } from './RhythmSheet.tsx';
import { capital } from './RuleEditor.tsx';
import { SeriesTerms } from './SeriesTerms.tsx';
import { seriesWindow } from './SeriesRow.tsx';
import { rhythmOn, rhythmWords } from './series-words.ts';
import { UnitList } from './UnitList.tsx';
import { UnitTrack } from './UnitTrack.tsx';
import { useSeriesSteps, type SeriesSteps } from './use-series-steps.ts';

const TrackLine = styled.div`
  position: relative;
  padding: 6px 0;
`;

const Columns = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr) 330px;
  gap: 14px;
  align-items: start;
  ${narrow} {
    grid-template-columns: minmax(0, 1fr);
  }
`;
const Stack = styled.div`
  display: flex;
  flex-direction: column;
  gap: 14px;
  min-width: 0;
`;
const Time = styled.div`
  position: relative;
  padding: 0 14px 14px;
  > div:first-child {
    height: 30px;
    margin-bottom: 10px;
    font-size: 12px;
  }
`;
const Rhythm = styled.p`
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 4px 10px;
  margin: -4px 0 12px;
  color: var(--ink-2);
  strong {
    color: var(--ink);
    font-weight: 650;
  }
`;

const SERIES_SHEETS = { things: [], named: ['pace'] } as const;

/** One series: its units along time, its hours, who does it, and how often it comes. */
export function SeriesPage() {
  const { id = '' } = useParams();
  const me = useWho();
  const { data: series, error } = useSeries(id);
  const [sheet, openSheet] = useOpenSheet(SERIES_SHEETS);
  if (error !== undefined)
    return (
      <Page>
        <ErrorNote error={error} />
      </Page>
    );
  if (series === undefined)
    return (
      <Page>
        <Loading rows={8} />
      </Page>
    );
  const isPaced = sheet !== null && can(me, 'series.edit');
  return (
    <Page>
      <Body
        series={series}
        today={me.today}
        mayEdit={can(me, 'series.edit')}
        isPaced={isPaced}
        onPace={(isOpen) => openSheet(isOpen ? { kind: 'pace' } : null)}
      />
    </Page>
  );
}

interface BodyProps {
  readonly series: SeriesView;
  readonly today: IsoDay;
  readonly mayEdit: boolean;
  readonly isPaced: boolean;
  /** Opens or closes the sheet on which another pace is tried. */
  readonly onPace: (isOpen: boolean) => void;
}

function Body({ series, today, mayEdit, isPaced, onPace }: BodyProps) {
  const steps = useSeriesSteps(series, today);
  const isStopped = series.stoppedOn !== null;
  return (
    <>
      <PageHead>
        <HueMark $hue={series.client.hue} $height={28} />
        <h1>{series.name}</h1>
        <Tag>{series.client.name}</Tag>
        <PersonMark person={series.lead} />
        <Push />
        <ButtonLink href="/engagements/repeating">All repeating work</ButtonLink>
        {mayEdit ? (
          <>
            <Button onPress={isStopped ? steps.resume : steps.stop}>{isStopped ? 'Resume' : 'Stop'}</Button>
            {isStopped ? null : (
              <Button kind="primary" onPress={() => onPace(!isPaced)}>
                {series.kind === 'line' ? 'Change pace…' : 'Change how often…'}
              </Button>
            )}
          </>
        ) : null}
      </PageHead>
      <Rhythms series={series} today={today} {...(mayEdit ? { steps } : {})} />
      <WithSheet $isOpen={isPaced} $sheet="390px">
        {isPaced ? (
          <Stack>
            <AlongTime series={series} today={today} />
            <UnitList series={series} today={today} {...(mayEdit ? { steps } : {})} />
          </Stack>
        ) : (
          <Columns>
            <Stack>
              <AlongTime series={series} today={today} />
              <UnitList series={series} today={today} {...(mayEdit ? { steps } : {})} />
            </Stack>
            <Stack>
              {series.retainerMinutes === null ? null : <Hours series={series} />}
              <SeriesTerms series={series} today={today} {...(mayEdit ? { steps } : {})} />
              <SeriesHistory series={series} />
            </Stack>
          </Columns>
        )}
        {isPaced ? <RhythmSheet series={series} today={today} onClose={() => onPace(false)} /> : null}
      </WithSheet>
    </>
  );
}

/** How often now, and what it becomes from when. */
function Rhythms({ series, today, steps }: { readonly series: SeriesView; readonly today: IsoDay; readonly steps?: SeriesSteps }) {
  const now = rhythmOn(series.rhythms, today);
  const later = series.rhythms.filter((rhythm) => rhythm.isAhead && rhythm !== now);
  const verb = series.places === 'start' ? 'each starts on its day' : 'each is to be finished on its day';
  return (
    <Rhythm>
      <span>
        <strong>{now === undefined ? '' : capital(rhythmWords(now, today))}</strong>
        {now?.isAhead === true ? `, from ${shortDay(now.from, today)}` : ''}; {verb}; on a closed day {ON_CLOSED_WORDS[series.onClosed]}
      </span>
      {series.stoppedOn === null ? null : <strong>Stopped from {shortDay(series.stoppedOn, today)}</strong>}
      {later.map((rhythm: RhythmView) => (
        <span key={rhythm.from}>
          <strong>
            {capital(rhythmWords(rhythm, today))} from {shortDay(rhythm.from, today)}
          </strong>{' '}
          {steps === undefined ? null : (
            <Button kind="text" onPress={() => steps.cancelRhythm(rhythm)}>
              Remove
            </Button>
          )}
        </span>
      ))}
    </Rhythm>
  );
}

function AlongTime({ series, today }: { readonly series: SeriesView; readonly today: IsoDay }) {
  const window = seriesWindow([series], today);
  return (
    <Panel aria-label="Timeline">
      <Time>
        <MonthTicks window={window} today={today} />
        <TrackLine>
          <UnitTrack units={series.units} coming={series.coming} scale={window.scale} today={today} />
          <TodayLine style={{ left: `${window.scale(today)}%` }} />
        </TrackLine>
      </Time>
    </Panel>
  );
}

function SeriesHistory({ series }: { readonly series: SeriesView }) {
  return (
    <Panel>
      <PanelHead>
        <h2>History</h2>
      </PanelHead>
      <PanelBody>
        <ThingHistory query={historyOf('series', series.id)} />
      </PanelBody>
    </Panel>
  );
}

/** Agreed against used, period by period. */
function Hours({ series }: { readonly series: SeriesView }) {
  const units = series.units.slice(-8);
  const option = useCallback((colour: (token: string) => string) => retainerOption(units, colour), [units]);
  return (
    <Panel>
      <PanelHead>
        <h2>Agreed and used hours</h2>
        <Muted>hours</Muted>
      </PanelHead>
      <PanelBody>
        <Chart label={retainerLabel(units)} height={170} option={option} />
      </PanelBody>
    </Panel>
  );
}
