import type { RhythmView, SeriesView } from '@crew/contract';
import { call } from '../../api/client.ts';
import { refreshAll } from '../../api/queries.ts';
import { notify } from '../../ui/toasts.tsx';
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
  readonly leaveOut: (day: string) => void;
  readonly takeIn: (day: string) => void;
  readonly stop: () => void;
  readonly resume: () => void;
  readonly takeBack: (rhythm: RhythmView) => void;
  /** Changes fields; what was refused is thrown. */
  readonly change: (body: object, said: string, undo: object) => Promise<void>;
}

export function useSeriesSteps(shown: SeriesView, today: string): SeriesSteps {
  const inTurn = useInTurn(`/series/${shown.id}`, shown);
  const send = ({ method, path, body }: Sending, { id, version }: SeriesView): Promise<SeriesView> =>
    call<SeriesView | { readonly series: SeriesView }>(method, `/series/${id}${path}`, { version, ...body }).then((answer) =>
      'series' in answer ? answer.series : answer,
    );
  const take = async ({ there, back }: Ways, said: string): Promise<void> => {
    await inTurn((series) => send(there(series), series));
    await refreshAll();
    notify(said, { undo: () => inTurn((series) => send(back(series), series)).then(() => void refreshAll()) });
  };
  const tell = (error: unknown): void => notify(error instanceof Error ? error.message : 'This was not saved.', { tone: 'trouble' });
  const patch = (body: object): Sending => ({ method: 'PATCH', path: '', body });
  const post = (path: string, body: object = {}): Sending => ({ method: 'POST', path, body });
  const skip = (isOut: boolean, day: string, said: string): void => {
    const way =
      (out: boolean): Way =>
      ({ skipped }) =>
        patch({ skipped: out ? [...skipped, day] : skipped.filter((other) => other !== day) });
    void take({ there: way(isOut), back: way(!isOut) }, said).catch(tell);
  };
  return {
    leaveOut: (day) => skip(true, day, `${dayWords(day, today)} is left out.`),
    takeIn: (day) => skip(false, day, `${dayWords(day, today)} is in again.`),
    stop: () =>
      void take(
        { there: () => post('/stop'), back: () => post('/resume') },
        `“${shown.name}” is stopped. What runs goes on; what was ahead and untouched is gone.`,
      ).catch(tell),
    resume: () => void take({ there: () => post('/resume'), back: () => post('/stop') }, `“${shown.name}” goes on.`).catch(tell),
    takeBack: (rhythm) =>
      void take(
        {
          there: () => post('/rhythms/take-back', { from: rhythm.from }),
          back: () => post('/rhythms', { from: rhythm.from, rule: rhythm.rule, each: rhythm.each }),
        },
        `${rhythmWords(rhythm, today)} from ${dayWords(rhythm.from, today)} is taken back.`,
      ).catch(tell),
    change: (body, said, undo) => take({ there: () => patch(body), back: () => patch(undo) }, said),
  };
}
