import type { RhythmView, SeriesView } from '@crew/contract';
import { call } from '../../api/client.ts';
import { refreshAll } from '../../api/queries.ts';
import { notify } from '../../ui/toasts.tsx';
import { dayWords } from '../../words/format.ts';
import { rhythmWords } from './series-words.ts';

type Method = 'POST' | 'PATCH';
interface Sending {
  readonly method: Method;
  readonly path: string;
  readonly body: object;
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

export function useSeriesSteps(series: SeriesView, today: string): SeriesSteps {
  const send = ({ method, path, body }: Sending, version: number): Promise<{ readonly version: number }> =>
    call<SeriesView | { readonly series: SeriesView }>(method, `/series/${series.id}${path}`, { version, ...body }).then((answer) =>
      'series' in answer ? answer.series : answer,
    );
  const take = async (step: Sending, said: string, undo: Sending): Promise<void> => {
    const { version } = await send(step, series.version);
    await refreshAll();
    notify(said, { undo: () => send(undo, version).then(() => void refreshAll()) });
  };
  const tell = (error: unknown): void => notify(error instanceof Error ? error.message : 'This was not saved.', { tone: 'trouble' });
  const patch = (body: object): Sending => ({ method: 'PATCH', path: '', body });
  const back = patch({ skipped: series.skipped });
  return {
    leaveOut: (day) => void take(patch({ skipped: [...series.skipped, day] }), `${dayWords(day, today)} is left out.`, back).catch(tell),
    takeIn: (day) =>
      void take(patch({ skipped: series.skipped.filter((other) => other !== day) }), `${dayWords(day, today)} is in again.`, back).catch(
        tell,
      ),
    stop: () =>
      void take(
        { method: 'POST', path: '/stop', body: {} },
        `“${series.name}” is stopped. What runs goes on; what was ahead and untouched is gone.`,
        { method: 'POST', path: '/resume', body: {} },
      ).catch(tell),
    resume: () =>
      void take({ method: 'POST', path: '/resume', body: {} }, `“${series.name}” goes on.`, {
        method: 'POST',
        path: '/stop',
        body: {},
      }).catch(tell),
    takeBack: (rhythm) =>
      void take(
        { method: 'POST', path: '/rhythms/take-back', body: { from: rhythm.from } },
        `${rhythmWords(rhythm, today)} from ${dayWords(rhythm.from, today)} is taken back.`,
        { method: 'POST', path: '/rhythms', body: { from: rhythm.from, rule: rhythm.rule, each: rhythm.each } },
      ).catch(tell),
    change: (body, said, undo) => take(patch(body), said, patch(undo)),
  };
}
