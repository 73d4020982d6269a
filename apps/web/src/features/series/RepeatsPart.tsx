import type { IsoDay } from '@crew/core';
import { backBy, perform, performOrThrow } from '../../session/perform.ts';
import { ChangeTaskSeries, type TaskSeriesView, type TaskSheet } from '@crew/contract';
import { Quiet } from '../../ui/text.tsx';
import styled from 'styled-components';
import { call } from '../../api/client.ts';
import { useTaskSeries } from '../../api/queries.ts';
import { Button } from '../../ui/Button.tsx';
import { DayField } from '../../ui/DayField.tsx';
import { SheetPart } from '../../ui/Sheet.tsx';
import { FormButton, SmallForm } from '../../ui/form/SmallForm.tsx';
import { dayTyped } from '../../ui/form/typed.ts';
import { useInputForm } from '../../ui/form/use-input-form.ts';
import { dayWords } from '../../words/format.ts';
import { ruleWords } from '../../words/rhythm.ts';
import { FORM_WIDTH, repeatWords } from './repeat-words.tsx';
import { capital, occurrenceWords, RuleEditor, useRuleDraft } from './RuleEditor.tsx';
import { useInTurn } from './use-in-turn.ts';

const Days = styled.ul`
  display: flex;
  flex-direction: column;
  gap: 1px;
  margin: 6px 0 9px;
  li {
    display: flex;
    align-items: center;
    justify-content: space-between;
    gap: 8px;
    min-height: 26px;
    font-size: 12.5px;
  }
  small {
    color: var(--ink-2);
    font-size: 12px;
  }
`;
const Line = styled.p`
  color: var(--ink-2);
  font-size: 12.5px;
`;

const RuleLine = styled(Line)`
  margin: 6px 0 9px;
`;
const Tools = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
`;

/** How a task repeats: what is to come, what is left out, another rule, stopping it. */
export function RepeatsPart({ task, today }: { readonly task: TaskSheet; readonly today: IsoDay }) {
  const { data: series } = useTaskSeries(task.seriesId);
  if (series === undefined) return null;
  return <SeriesPart series={series} task={task} today={today} />;
}

const SHOWN = 5;

function SeriesPart({ series, task, today }: { readonly series: TaskSeriesView; readonly task: TaskSheet; readonly today: IsoDay }) {
  const act = useSeriesAct(series);
  return (
    <SheetPart aria-label="How it repeats">
      <h3>It repeats</h3>
      <Line>
        {capital(repeatWords(series, today))}
        {series.phase === null ? '' : `, while “${series.phase.name}” runs`}
        {series.whenMissed === 'drop' ? '; a missed one is dropped when the next one starts' : ''}.
      </Line>
      <LaterOnes series={series} taskId={task.id} today={today} act={act} />
      <Tools>
        <FormButton label="How it repeats" width={FORM_WIDTH} button={<Button>Change…</Button>}>
          {(close) => <ChangeForm series={series} today={today} onDone={close} />}
        </FormButton>
        <Button onPress={() => act({ path: '/like', body: () => ({ taskId: task.id }), said: 'Later ones now match this one.' })}>
          Make later ones like this
        </Button>
        {series.stoppedOn === null ? (
          <Button onPress={() => act({ path: '/stop', said: `“${series.title}” does not repeat any more.`, undo: { path: '/resume' } })}>
            Stop
          </Button>
        ) : (
          <Button onPress={() => act({ path: '/resume', said: `“${series.title}” repeats again.` })}>Resume</Button>
        )}
      </Tools>
    </SheetPart>
  );
}

/** A day of the rule without its task, and with it again. */
const leaveOut = (day: IsoDay): Step => ({ method: 'PATCH', path: '', body: ({ skipped }) => ({ skipped: [...skipped, day] }) });
const include = (day: IsoDay): Step => ({
  ...{ method: 'PATCH', path: '' },
  body: ({ skipped }) => ({ skipped: skipped.filter((other) => other !== day) }),
});

interface LaterProps {
  readonly series: TaskSeriesView;
  readonly taskId: string;
  readonly today: IsoDay;
  readonly act: (act: Act) => void;
}

/** The next ones, and days that are left out; each can be left out or included. */
function LaterOnes({ series, taskId, today, act }: LaterProps) {
  const madeOn = new Map(series.made.map((made) => [made.day, made]));
  const later = series.coming.filter(({ day }) => madeOn.get(day)?.id !== taskId).slice(0, SHOWN);
  const leftOut = series.skipped.filter((day) => day >= today);
  if (later.length + leftOut.length === 0) return <RuleLine>No more to come.</RuleLine>;
  return (
    <Days aria-label="Later ones">
      {later.map((occurrence) => (
        <LaterOne key={occurrence.day} occurrence={occurrence} made={madeOn.get(occurrence.day)} today={today} act={act} />
      ))}
      {leftOut.map((day) => (
        <li key={day}>
          <Quiet as="s">{dayWords(day, today)}</Quiet>
          <Button
            kind="quiet"
            aria-label={`Restore ${dayWords(day, today)}`}
            onPress={() => act({ ...include(day), said: `${capital(dayWords(day, today))} restored.`, undo: leaveOut(day) })}
          >
            Restore
          </Button>
        </li>
      ))}
    </Days>
  );
}

interface LaterOneProps extends Pick<LaterProps, 'today' | 'act'> {
  readonly occurrence: TaskSeriesView['coming'][number];
  readonly made: TaskSeriesView['made'][number] | undefined;
}

function LaterOne({ occurrence, made, today, act }: LaterOneProps) {
  const on = dayWords(occurrence.on, today);
  const isMoved = made !== undefined && made.start !== occurrence.on;
  return (
    <li>
      <span>
        {isMoved ? `${dayWords(made.start, today)}, moved from ${on}` : occurrenceWords(occurrence, today)}{' '}
        {made === undefined ? <small>· made later</small> : null}
      </span>
      {made === undefined || made.status === 'queued' ? (
        <Button
          kind="quiet"
          aria-label={`Skip ${on}`}
          onPress={() => act({ ...leaveOut(occurrence.day), said: `${capital(on)} skipped.`, undo: include(occurrence.day) })}
        >
          Skip
        </Button>
      ) : null}
    </li>
  );
}

interface Step {
  readonly method?: 'POST' | 'PATCH';
  readonly path: string;
  /** What is sent, of the series as it then is. */
  readonly body?: (now: TaskSeriesView) => object;
}

interface Act extends Step {
  readonly said: string;
  /** How it is cancelled. */
  readonly undo?: Step;
}

/** Does something to a series, says so, and offers the way back where there is one. */
function useSeriesAct(series: TaskSeriesView): (act: Act) => void {
  const inTurn = useInTurn(`/task-series/${series.id}`, series);
  const send = ({ method = 'POST', path, body }: Step): Promise<TaskSeriesView> =>
    inTurn((now) => call<TaskSeriesView>(method, `/task-series/${now.id}${path}`, { version: now.version, ...body?.(now) }));
  return ({ undo, said, ...step }) =>
    void perform({ send: () => send(step), said, undo: () => (undo === undefined ? null : backBy(() => send(undo))) });
}

function ChangeForm({ series, today, onDone }: { readonly series: TaskSeriesView; readonly today: IsoDay; readonly onDone: () => void }) {
  const next = series.coming.find(({ day }) => day > today)?.day ?? today;
  const editing = useRuleDraft({ rule: series.rule, onClosed: series.onClosed, day: next });
  const form = useInputForm({
    rules: ChangeTaskSeries,
    typed: { from: next as IsoDay | '' },
    input: ({ from }) => {
      const { rule, onClosed } = editing.input;
      return { version: series.version, onClosed, ...(rule === series.rule ? {} : { rule, from: dayTyped(from) }) };
    },
    send: async (input) => {
      await performOrThrow({
        send: () => call('PATCH', `/task-series/${series.id}`, input),
        said: `“${series.title}” repeats ${ruleWords(input.rule ?? series.rule, today)}. Ones already worked on stay as they are.`,
      });
      onDone();
    },
  });
  const { from } = form.values;
  return (
    <SmallForm form={form} action="Change it" gap={9}>
      <DayField {...form.bind('from')} label="From" isTight today={today} />
      <RuleEditor editing={editing} from={from === '' ? today : from} today={today} lasting="the engagement ends" />
    </SmallForm>
  );
}
