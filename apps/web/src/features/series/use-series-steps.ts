import type { IsoDay } from '@crew/core';
import { backBy, perform, performOrThrow, type Step } from '../../session/perform.ts';
import type { RhythmView, SeriesView } from '@crew/contract';
import { call } from '../../api/client.ts';
import { dayWords } from '../../words/format.ts';
import { rhythmWords } from './series-words.ts';
import { useInTurn } from './use-in-turn.ts';

type Method = 'POST' | 'PATCH';
interface Sending {
  readonly method: Method;
  readonly path: string;
  readonly body: object;
}

/** What is sent, of the series as it then is. */
type Way = (series: SeriesView) => Sending;
interface Ways {
  readonly there: Way;
  readonly back: Way;
}

/** What can be done with a series in one step, each with its way back. */
export interface SeriesSteps {
  readonly leaveOut: (day: IsoDay) => void;
  readonly include: (day: IsoDay) => void;
  readonly stop: () => void;
  readonly resume: () => void;
  readonly cancelRhythm: (rhythm: RhythmView) => void;
  /** Changes fields; what was refused is thrown. */
  readonly change: (body: object, said: string, undo: object) => Promise<void>;
}

export function useSeriesSteps(shown: SeriesView, today: IsoDay): SeriesSteps {
  const inTurn = useInTurn(`/series/${shown.id}`, shown);
  const send = ({ method, path, body }: Sending, { id, version }: SeriesView): Promise<SeriesView> =>
    call<SeriesView | { readonly series: SeriesView }>(method, `/series/${id}${path}`, { version, ...body }).then((answer) =>
      'series' in answer ? answer.series : answer,
    );
  const stepOf = ({ there, back }: Ways, said: string): Step<SeriesView> => ({
    send: () => inTurn((series) => send(there(series), series)),
    said,
    undo: () => backBy(() => inTurn((series) => send(back(series), series))),
  });
  const run = (ways: Ways, said: string): void => void perform(stepOf(ways, said));
  const patch = (body: object): Sending => ({ method: 'PATCH', path: '', body });
  const post = (path: string, body: object = {}): Sending => ({ method: 'POST', path, body });
  const skip = (isOut: boolean, day: IsoDay, said: string): void => {
    const way =
      (out: boolean): Way =>
      ({ skipped }) =>
        patch({ skipped: out ? [...skipped, day] : skipped.filter((other) => other !== day) });
    run({ there: way(isOut), back: way(!isOut) }, said);
  };
  return {
    leaveOut: (day) => skip(true, day, `${dayWords(day, today)} skipped.`),
    include: (day) => skip(false, day, `${dayWords(day, today)} restored.`),
    stop: () =>
      run(
        { there: () => post('/stop'), back: () => post('/resume') },
        `“${shown.name}” is stopped. Running ones continue; upcoming ones not yet started are removed.`,
      ),
    resume: () => run({ there: () => post('/resume'), back: () => post('/stop') }, `“${shown.name}” resumed.`),
    cancelRhythm: (rhythm) =>
      run(
        {
          there: () => post('/rhythms/cancel', { from: rhythm.from }),
          back: () => post('/rhythms', { from: rhythm.from, rule: rhythm.rule, each: rhythm.each }),
        },
        `${rhythmWords(rhythm, today)} from ${dayWords(rhythm.from, today)} is removed.`,
      ),
    change: async (body, said, undo) => void (await performOrThrow(stepOf({ there: () => patch(body), back: () => patch(undo) }, said))),
  };
}
