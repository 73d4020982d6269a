import { SPEED_BY, SPEED_MONTHS, type HandoffSpeed, type HandoffSpeedColumn, type SpeedBy } from '@crew/contract';
import { useMemo } from 'react';
import styled from 'styled-components';
import { useHandoffSpeed } from '../../api/queries.ts';
import { useShown } from '../../session/use-shown.ts';
import { useWho } from '../../session/session.tsx';
import { Button } from '../../ui/Button.tsx';
import { Chart } from '../../ui/Chart.tsx';
import { Choose } from '../../ui/Field.tsx';
import { Empty, ErrorNote, Loading, Page, PageHead, Panel, Push } from '../../ui/layout.tsx';
import { count, dayWords } from '../../words/format.ts';
import { HandoffTabs } from '../rule/HandoffTabs.tsx';
import { CasesPanel } from './CasesPanel.tsx';
import { CURVES_HEIGHT, curvesOf, ROWS, scalesOf, type Scales } from './curves.ts';
import { columnWords, monthShort, summaryOf } from './speed-words.ts';

const Summary = styled.p`
  margin: 0 0 12px;
  color: var(--ink-2);
  font-size: 14.5px;
`;
const Scroll = styled.div`
  overflow-x: auto;
`;
const Columns = styled.div`
  display: flex;
  padding: 12px 14px;
  min-width: min-content;
`;
const Labels = styled.div`
  position: sticky;
  left: 0;
  z-index: 1;
  flex: 0 0 150px;
  padding-top: 38px;
  background: var(--panel);
  > div {
    position: relative;
    height: ${CURVES_HEIGHT}px;
  }
  strong {
    display: block;
    font-size: 12.5px;
  }
`;
const RowLabel = styled.div<{ $top: number }>`
  position: absolute;
  top: ${({ $top }) => $top - 6}px;
  width: 104px;
  font-size: 12px;
  color: var(--ink-2);
`;
const Step = styled.span<{ $top: number }>`
  position: absolute;
  top: ${({ $top }) => $top - 8}px;
  right: 4px;
  font-size: 11.5px;
  color: var(--ink-2);
`;
const Column = styled.section`
  flex: 1 0 150px;
  min-width: 150px;
  h2 {
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
    font:
      600 12.5px 'Hanken Grotesk Variable',
      sans-serif;
  }
  small {
    color: var(--ink-2);
    font-size: 12px;
  }
`;
const Below = styled.p`
  padding: 0 14px 10px;
  font-size: 12.5px;
  color: var(--ink-2);
`;
const MonthRow = styled.div`
  display: flex;
  padding-right: 40px;
  button {
    flex: 1 1 0;
    min-width: 0;
    padding: 2px 0;
    border: 0;
    border-radius: 4px;
    background: transparent;
    font-size: 11px;
    color: var(--ink-2);
    cursor: pointer;
  }
  button[aria-pressed='true'] {
    background: var(--petrol-soft);
    color: var(--ink);
    font-weight: 600;
  }
`;

const BY_WORDS: Readonly<Record<SpeedBy, string>> = { phase: 'phase', role: 'owning role', person: 'person' };
const ALL = 'all';

/** Handoff times: time in the phase, the wait until picked up, and how many come back, with the handoffs behind each number. */
export function SpeedPage() {
  const [search, show] = useShown();
  const template = search.get('template');
  const asked = SPEED_BY.find((one) => one === search.get('by'));
  const by = template === null ? (asked === 'person' ? 'person' : 'role') : (asked ?? 'phase');
  const months = SPEED_MONTHS.find((one) => String(one) === search.get('months')) ?? 6;
  const query = `by=${by}&months=${months}${template === null ? '' : `&template=${template}`}`;
  const { data, error } = useHandoffSpeed(query);
  const anew = { key: null, month: null };
  return (
    <Page>
      <PageHead>
        <h1>Handoff times</h1>
        <HandoffTabs shown="/handoffs/speed" />
        <Push />
        <Choose
          label="Showing"
          isTight
          choices={[{ id: ALL, name: 'all templates' }, ...(data?.templates ?? [])]}
          value={template ?? ALL}
          onChange={(id) => show({ template: id === ALL ? null : id, by: null, ...anew })}
        />
        <Choose
          label="By"
          isTight
          choices={SPEED_BY.filter((one) => one !== 'phase' || template !== null).map((id) => ({ id, name: BY_WORDS[id] }))}
          value={by}
          onChange={(next) => show({ by: next, ...anew })}
        />
        <Choose
          label="Over"
          isTight
          choices={SPEED_MONTHS.map((one) => ({ id: String(one), name: count(one, 'month') }))}
          value={String(months)}
          onChange={(next) => show({ months: next, ...anew })}
        />
        <Button
          onPress={() =>
            window.location.assign(`/api/handoffs/speed/export?months=${months}${template === null ? '' : `&template=${template}`}`)
          }
        >
          Export CSV
        </Button>
      </PageHead>
      {data === undefined ? (
        error === undefined ? (
          <Loading rows={10} />
        ) : (
          <ErrorNote error={error} />
        )
      ) : (
        <Speed speed={data} query={query} />
      )}
    </Page>
  );
}

function Speed({ speed, query }: { readonly speed: HandoffSpeed; readonly query: string }) {
  const [search, show] = useShown();
  const { today } = useWho();
  const scales = useMemo(() => scalesOf(speed.columns), [speed]);
  const [key, month] = [search.get('key'), search.get('month')];
  const column = speed.columns.find((one) => one.key === key);
  return (
    <>
      <Summary>{summaryOf(speed).join(' ')}</Summary>
      <Panel aria-label="Curves" $space="below">
        {speed.columns.length === 0 ? (
          <Empty title="Nothing to show yet.">Once phases are handed off, their times appear here month by month.</Empty>
        ) : (
          <Scroll>
            <Columns>
              <RowLabels scales={scales} />
              {speed.columns.map((one) => (
                <SpeedColumn
                  key={one.key}
                  column={one}
                  {...{ scales, marks: speed.marks, chosen: one.key === key ? month : null }}
                  onChoose={(next) => show({ key: one.key, month: next })}
                />
              ))}
            </Columns>
          </Scroll>
        )}
        <Below>
          dotted line: planned length · hollow point: one handoff only · the last month is so far · a month belongs to the first handing off
          {speed.marks.map(({ day, words }) => (
            <span key={`${day} ${words}`}>
              {' '}
              · {dayWords(day, today)}: {words}
            </span>
          ))}
        </Below>
      </Panel>
      {column === undefined || month === null ? null : (
        <CasesPanel
          column={column}
          month={month}
          query={`${query}&key=${encodeURIComponent(column.key)}&month=${month}`}
          months={speed.months}
        />
      )}
    </>
  );
}

/** What each row of curves is, and its scale. */
function RowLabels({ scales }: { readonly scales: Scales }) {
  const rows = [
    { at: ROWS.days, name: 'Time in the phase', words: 'working days, median', steps: [scales.days, scales.days / 2, 0].map(String) },
    {
      at: ROWS.wait,
      name: 'Wait for pick-up',
      words: 'working hours, median',
      steps: [scales.waitHours, scales.waitHours / 2, 0].map(String),
    },
    { at: ROWS.back, name: 'Sent back', words: 'share of handoffs', steps: ['all', 'half', 'none'] },
  ];
  return (
    <Labels aria-hidden="true">
      <div>
        {rows.map(({ at, name, words, steps }) => (
          <div key={name}>
            <RowLabel $top={at.top}>
              <strong>{name}</strong>
              {words}
            </RowLabel>
            {steps.map((step, place) => (
              <Step key={step} $top={at.top + (at.height / 2) * place}>
                {step}
              </Step>
            ))}
          </div>
        ))}
      </div>
    </Labels>
  );
}

interface SpeedColumnProps {
  readonly column: HandoffSpeedColumn;
  readonly scales: Scales;
  readonly marks: HandoffSpeed['marks'];
  readonly chosen: string | null;
  readonly onChoose: (month: string) => void;
}

/** There is room for the first month, one in between and the last; the others are dots. */
const isNamed = (place: number, count: number): boolean =>
  place === 0 || place === count - 1 || (count > 3 && place === Math.floor(count / 2) - (count === 6 ? 1 : 0));

function SpeedColumn({ column, scales, marks, chosen, onChoose }: SpeedColumnProps) {
  const { points } = column;
  const option = useMemo(() => {
    const place = points.findIndex(({ month }) => month === chosen);
    return curvesOf(column, { scales, marks, chosen: place < 0 ? null : place });
  }, [column, points, scales, marks, chosen]);
  return (
    <Column aria-label={column.name}>
      <h2 title={column.name}>{column.name}</h2>
      <small>{count(column.cases, 'handoff')}</small>
      <Chart label={columnWords(column)} height={CURVES_HEIGHT} option={option} onPick={(place) => onChoose(points[place]?.month ?? '')} />
      <MonthRow>
        {points.map(({ month, cases, waits }, place) => (
          <button
            key={month}
            type="button"
            aria-pressed={month === chosen}
            aria-label={`${column.name}, ${month}: show ${count(Math.max(cases, waits), 'handoff')}`}
            onClick={() => onChoose(month)}
          >
            {isNamed(place, points.length) ? monthShort(month) : '·'}
          </button>
        ))}
      </MonthRow>
    </Column>
  );
}
