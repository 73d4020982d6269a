import type { IsoDay } from '@crew/core';
import type { SeriesUnit, SeriesView } from '@crew/contract';
import { Link } from 'react-aria-components';
import styled from 'styled-components';
import { Button } from '../../ui/Button.tsx';
import { Empty, Muted, Panel, PanelHead } from '../../ui/layout.tsx';
import { Toned } from '../../ui/text.tsx';
import { phone } from '../../ui/tokens.ts';
import { count, dayWords, hours, hourWords, spanWords } from '../../words/format.ts';
import { balanceWords } from './series-words.ts';
import type { SeriesSteps } from './use-series-steps.ts';

const Row = styled.li`
  display: grid;
  grid-template-columns: minmax(0, 1fr) 122px minmax(0, 1.45fr) minmax(0, 1.15fr) 84px;
  gap: 12px;
  align-items: center;
  min-height: 38px;
  padding: 4px 14px;
  border-bottom: 1px solid var(--line-2);
  font-size: 13px;
  &:last-child {
    border-bottom: 0;
  }
  a {
    font-weight: 600;
    text-decoration: none;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  > span {
    color: var(--ink-2);
    font-size: 12.5px;
  }
  ${phone} {
    grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
    gap: 1px 10px;
    padding: 8px 12px;
    a {
      white-space: normal;
    }
    > span:empty {
      display: none;
    }
    > button {
      grid-column: 2;
      justify-self: end;
      min-height: 24px;
    }
  }
`;

/** How many of the past, and of what is not created yet, are shown. */
const PAST = 12;
const COMING = 5;

interface ListProps extends RowProps {
  readonly series: SeriesView;
}

/** Each of a series: those that run and wait, what is to come, and those that are over, newest first. */
export function UnitList({ series, today, steps }: ListProps) {
  const past = series.units.filter(({ state }) => state === 'finished' || state === 'dropped');
  const open = series.units.filter((unit) => !past.includes(unit));
  const leftOut = series.skipped.filter((day) => day >= today);
  const isNothing = open.length + series.coming.length + leftOut.length === 0;
  const acting = steps === undefined ? {} : { steps };
  return (
    <>
      <Panel>
        {isNothing ? (
          <Empty title="No more to come.">
            <p>{series.stoppedOn === null ? 'Change its pace to continue.' : 'Resume it to create the next ones.'}</p>
          </Empty>
        ) : (
          <ul aria-label="Under way and upcoming">
            {open.map((unit) => (
              <UnitRow key={unit.id} unit={unit} today={today} {...acting} />
            ))}
            {series.coming.slice(0, COMING).map((coming) => (
              <ComingRow key={coming.day} coming={coming} today={today} {...acting} />
            ))}
            {leftOut.map((day) => (
              <LeftOutRow key={day} day={day} today={today} {...acting} />
            ))}
          </ul>
        )}
      </Panel>
      {past.length === 0 ? null : <PastUnits past={past} today={today} />}
    </>
  );
}

interface RowProps {
  readonly today: IsoDay;
  /** Left out for those who only read. */
  readonly steps?: SeriesSteps;
}

/** Some of it that are not created yet. */
function ComingRow({ coming, today, steps }: RowProps & { readonly coming: SeriesView['coming'][number] }) {
  const { day, on, each } = coming;
  return (
    <Row>
      <span>{each === 1 ? 'One more' : `${each} more`}</span>
      <span>{dayWords(on, today)}</span>
      <span>{day === on ? 'created automatically' : `in place of ${dayWords(day, today)}`}</span>
      <span />
      <LeaveOut name={dayWords(on, today)} day={day} {...(steps === undefined ? {} : { steps })} />
    </Row>
  );
}

function LeftOutRow({ day, today, steps }: RowProps & { readonly day: IsoDay }) {
  const words = dayWords(day, today);
  return (
    <Row>
      <span>
        <s>{words}</s>
      </span>
      <span>skipped</span>
      <span />
      <span />
      {steps === undefined ? (
        <span />
      ) : (
        <Button kind="quiet" aria-label={`Restore ${words}`} onPress={() => steps.include(day)}>
          Take in
        </Button>
      )}
    </Row>
  );
}

function PastUnits({ past, today }: RowProps & { readonly past: readonly SeriesUnit[] }) {
  return (
    <Panel>
      <PanelHead>
        <h2>Over</h2>
        <Muted>{past.length <= PAST ? past.length : `the last ${PAST} of ${past.length}`}</Muted>
      </PanelHead>
      <ul aria-label="Over">
        {past
          .slice(-PAST)
          .reverse()
          .map((unit) => (
            <UnitRow key={unit.id} unit={unit} today={today} />
          ))}
      </ul>
    </Panel>
  );
}

function UnitRow({ unit, today, steps }: RowProps & { readonly unit: SeriesUnit }) {
  const isUnbegun = unit.state === 'open' && unit.start > today && unit.loggedMinutes === 0;
  return (
    <Row>
      <Link href={`/engagements/${unit.id}`}>{unit.name}</Link>
      <span>{spanWords(unit.start, unit.finish, today)}</span>
      <Toned $tone={unit.lateDays > 0 && unit.state === 'open' ? 'bad' : null}>{standWords(unit, today)}</Toned>
      <Toned $tone={unit.balance !== null && unit.balance.over > 0 ? 'bad' : null}>{hoursWords(unit)}</Toned>
      {isUnbegun ? <LeaveOut name={unit.name} day={unit.day} {...(steps === undefined ? {} : { steps })} /> : <span />}
    </Row>
  );
}

function LeaveOut({ name, day, steps }: { readonly name: string; readonly day: IsoDay; readonly steps?: SeriesSteps }) {
  if (steps === undefined) return <span />;
  return (
    <Button kind="quiet" aria-label={`Skip ${name}`} onPress={() => steps.leaveOut(day)}>
      Skip
    </Button>
  );
}

function standWords(unit: SeriesUnit, today: IsoDay): string {
  if (unit.state === 'finished') return 'finished';
  if (unit.state === 'dropped') return 'dropped';
  if (unit.start > today) return `starts ${dayWords(unit.start, today)}`;
  const late = unit.lateDays > 0 ? `, ${count(unit.lateDays, 'day')} late` : '';
  return `${unit.phase ?? 'under way'}, ${unit.percent} % of its effort${late}`;
}

const hoursWords = (unit: SeriesUnit): string =>
  unit.balance === null ? `${hours(unit.loggedMinutes)} of ${hourWords(unit.effortMinutes)} used` : balanceWords(unit);
