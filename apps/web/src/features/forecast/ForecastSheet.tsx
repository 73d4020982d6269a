import { Note, Earlier, Quiet } from '../../ui/text.tsx';
import type { IsoDay } from '@crew/core';
import type { EngagementPlan, ForecastView } from '@crew/contract';
import { useCallback } from 'react';
import { Link } from 'react-aria-components';
import styled from 'styled-components';
import { useWho } from '../../session/session.tsx';
import { Button } from '../../ui/Button.tsx';
import { Chart } from '../../ui/Chart.tsx';
import { Loading, Meter, Push } from '../../ui/layout.tsx';
import { PersonMark } from '../../ui/marks.tsx';
import { Facts, Sheet, SheetPart, SheetTitle } from '../../ui/Sheet.tsx';
import { count, dayWords, instantWords, shortDay } from '../../words/format.ts';
import { basisWords, chanceWords, spreadOption } from './forecast-words.ts';
import type { Forecasting } from './use-forecast.ts';

const LowMeter = styled(Meter)`
  margin-top: 4px;
`;

const Failed = styled.span`
  flex: 1;
  color: var(--brick);
`;

const Waiting = styled.span`
  flex: 1;
  color: var(--amber);
`;

const MiddleMeter = styled(Meter)`
  align-self: center;
`;

const Driver = styled.li`
  display: grid;
  grid-template-columns: minmax(0, 1fr) 76px;
  gap: 1px 12px;
  padding: 7px 0;
  border-top: 1px solid var(--line-2);
  a {
    text-decoration: none;
    font-weight: 600;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  small {
    color: var(--ink-2);
    font-size: 12px;
  }
`;
const State = styled.div`
  display: flex;
  align-items: center;
  gap: 10px;
  min-height: 30px;
  margin: 8px 0;
  font-size: 12.5px;
  color: var(--ink-2);
`;

interface ForecastSheetProps {
  readonly plan: EngagementPlan;
  readonly forecasting: Forecasting | undefined;
  readonly onClose: () => void;
}

/** The finish forecast: likely, safe and almost sure, how the runs spread, and what drives the date. */
export function ForecastSheet({ plan, forecasting, onClose }: ForecastSheetProps) {
  const { today } = useWho();
  return (
    <Sheet label="Forecast" line={plan.engagement.name} onClose={onClose}>
      <SheetTitle>Finish forecast</SheetTitle>
      {forecasting === undefined ? (
        <Loading rows={6} />
      ) : (
        <>
          <HowFar forecasting={forecasting} />
          {forecasting.forecast === null ? null : (
            <Earlier $isEarlier={forecasting.isStale}>
              <Dates forecast={forecasting.forecast} today={today} />
              <Drivers forecast={forecasting.forecast} engagementId={plan.engagement.id} today={today} />
              <Note $isSmall>{basisWords(forecasting.forecast)}</Note>
            </Earlier>
          )}
        </>
      )}
    </Sheet>
  );
}

/** Whether it is up to date, being computed, or from older facts. */
function HowFar({ forecasting }: { readonly forecasting: Forecasting }) {
  const { zone, today } = useWho();
  const { forecast, isStale, progress, problem, make, stop } = forecasting;
  if (progress !== null)
    return (
      <State role="status" aria-label="Calculating the forecast">
        <Push>
          {isStale && forecast !== null ? 'The plan has changed. ' : ''}Run {progress.done.toLocaleString('en-GB')} of{' '}
          {progress.of.toLocaleString('en-GB')}
          <LowMeter $part={(progress.done * 100) / progress.of} />
        </Push>
        <Button onPress={stop}>Stop</Button>
      </State>
    );
  if (problem !== null)
    return (
      <State role="alert">
        <Failed>{problem}</Failed>
        <Button onPress={make}>Try again</Button>
      </State>
    );
  if (isStale || forecast === null)
    return (
      <State>
        <Waiting>
          {forecast === null
            ? 'Not calculated yet.'
            : `Of ${instantWords(forecast.computedAt, { today, zone })}; the plan has changed since.`}
        </Waiting>
        <Button kind="primary" onPress={make}>
          Calculate now
        </Button>
      </State>
    );
  return (
    <State>
      as of {instantWords(forecast.computedAt, { today, zone })} ·{' '}
      {count(forecast.runs, 'run').replace(/^\d+/, (runs) => Number(runs).toLocaleString('en-GB'))}
    </State>
  );
}

function Dates({ forecast, today }: { readonly forecast: ForecastView; readonly today: IsoDay }) {
  const option = useCallback((colour: (token: string) => string) => spreadOption(forecast, { colour, today }), [forecast, today]);
  return (
    <>
      <Facts>
        <dt>Likely</dt>
        <dd>
          <strong>{dayWords(forecast.likely, today)}</strong> <Quiet as="small">half of the runs were done</Quiet>
        </dd>
        <dt>Safe</dt>
        <dd>
          <strong>{dayWords(forecast.safe, today)}</strong> <Quiet as="small">four of five were</Quiet>
        </dd>
        <dt>Almost sure</dt>
        <dd>
          {dayWords(forecast.almostSure, today)} <Quiet as="small">19 of 20 were</Quiet>
        </dd>
        <dt>As planned</dt>
        <dd>{dayWords(forecast.planned, today)}</dd>
        <dt>Promise</dt>
        <dd>
          {forecast.promise === null ? (
            'no promised date'
          ) : (
            <>
              {dayWords(forecast.promise, today)}
              <span style={{ display: 'block', color: (forecast.chance ?? 100) < 50 ? 'var(--brick)' : 'var(--ink-2)' }}>
                {chanceWords(forecast)}
              </span>
            </>
          )}
        </dd>
      </Facts>
      <Chart
        label={`Share of runs that were done by each day, from ${shortDay(forecast.spread[0]?.date ?? today, today)} to ${shortDay(forecast.spread.at(-1)?.date ?? today, today)}`}
        height={170}
        option={option}
      />
    </>
  );
}

function Drivers({
  forecast,
  engagementId,
  today,
}: {
  readonly forecast: ForecastView;
  readonly engagementId: string;
  readonly today: IsoDay;
}) {
  if (forecast.drivers.length === 0) return null;
  return (
    <SheetPart>
      <h3>What drives the date (share of runs on the longest chain)</h3>
      <ul>
        {forecast.drivers.map((driver) => (
          <Driver key={driver.id}>
            <Link href={`/engagements/${engagementId}?task=${driver.id}`}>{driver.title}</Link>
            <MiddleMeter $part={driver.onChain} aria-hidden="true" />
            <small>
              {driver.phase} · due {dayWords(driver.due, today)}{' '}
              {driver.assignees.map((person) => (
                <PersonMark key={person.id} person={person} />
              ))}
            </small>
            <small>{driver.onChain} of 100</small>
          </Driver>
        ))}
      </ul>
    </SheetPart>
  );
}
