import type { DryRun } from '@crew/contract';
import { isDay, type IsoDay } from '@crew/core';
import { useDryRun } from '../../api/queries.ts';
import { useShown } from '../../session/use-shown.ts';
import type { TemplateEditor } from './use-template-editor.ts';

export interface AskedRun {
  readonly run: DryRun | undefined;
  readonly error: Error | undefined;
  /** The day asked for; empty while it is left to the server. */
  readonly day: IsoDay | '';
  /** Whether the plan is laid back from a promise. */
  readonly isBack: boolean;
  readonly onAsk: (mode: 'start' | 'promise', day: IsoDay) => void;
}

/** The dry run of a template for the day in the address, from a start or back from a promise. */
export function useDryRunAsked({ view }: TemplateEditor, isReadOnly: boolean): AskedRun {
  const [search, show] = useShown();
  const isBack = search.has('promise');
  const asked = search.get('promise') ?? search.get('start');
  const day = isDay(asked) ? asked : '';
  const query = new URLSearchParams({
    ...(day === '' ? {} : { [isBack ? 'promise' : 'start']: day }),
    ...(isReadOnly ? {} : { draft: 'yes' }),
  });
  // A first task that was only just typed is scheduled once it is saved.
  const isSaved = view.content.tasks.length > 0;
  const { data: run, error } = useDryRun(isSaved ? view.id : null, query.size === 0 ? '' : `?${query.toString()}`);
  return { run, error, day, isBack, onAsk: (mode, next) => show({ start: null, promise: null, [mode]: next }) };
}
