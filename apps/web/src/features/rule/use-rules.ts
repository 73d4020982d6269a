import type { ChangeMade, ExceptRule, RuleException, RuleLine, RuleSaved, RunLine, RunUndone } from '@crew/contract';
import { call } from '../../api/client.ts';
import { backBy, perform, performOrThrow } from '../../session/perform.ts';
import { count } from '../../words/format.ts';
import type { Draft } from './draft.ts';

/** Adds a new rule, or saves what was changed of one; what went wrong is thrown to the form. Answers its id. */
export async function saveRule(draft: Draft, rule: RuleLine | null): Promise<string> {
  const saved = await performOrThrow({
    send: () =>
      rule === null
        ? call<RuleSaved>('POST', '/rules', draft)
        : call<RuleSaved>('PATCH', `/rules/${rule.id}`, { version: rule.version, content: draft.content }),
    said: rule === null ? 'Rule added. It applies from now on.' : 'Rule saved. It applies from now on.',
    undo: ({ changeId }) => changeId,
  });
  return saved.rule.id;
}

export const switchRule = ({ id, version }: RuleLine, isOn: boolean): Promise<unknown> =>
  perform({
    send: () => call<RuleSaved>('PATCH', `/rules/${id}`, { version, isOn }),
    said: isOn ? 'Rule switched on. It applies to what happens from now on.' : 'Rule switched off.',
    undo: ({ changeId }) => changeId,
  });

export const removeRule = ({ id }: RuleLine): Promise<{ readonly isDone: boolean }> =>
  perform({
    send: () => call<ChangeMade>('DELETE', `/rules/${id}`),
    said: 'Rule removed. What it did stays in the log.',
    undo: ({ changeId }) => changeId,
  });

export const exceptRule = ({ id }: RuleLine, place: ExceptRule, name: string): Promise<unknown> =>
  perform({
    send: () => call<RuleSaved>('POST', `/rules/${id}/exceptions`, place),
    said: `Rule switched off for ${name}.`,
    undo: ({ changeId }) => changeId,
  });

export const endException = ({ id }: RuleLine, exception: RuleException): Promise<unknown> =>
  perform({
    send: () => call<RuleSaved>('DELETE', `/rules/${id}/exceptions/${exception.id}`),
    said: `Rule switched on again for ${exception.name}.`,
    undo: ({ changeId }) => changeId,
  });

export const placeRule = ({ id, version }: RuleLine, beforeId: string | null, back: string | null): Promise<unknown> =>
  perform({
    send: () => call<RuleSaved>('PATCH', `/rules/${id}`, { version, beforeId }),
    said: 'Order changed.',
    undo: ({ rule }) => backBy(() => call('PATCH', `/rules/${id}`, { version: rule.version, beforeId: back })),
  });

export const undoRun = ({ id }: RunLine): Promise<unknown> =>
  perform({
    send: () => call<RunUndone>('POST', `/rules/runs/${id}/undo`),
    said: ({ undone, kept }) => [`${count(undone, 'effect')} undone.`, ...kept].join(' '),
  });

export const retryRun = ({ id }: RunLine): Promise<unknown> =>
  perform({ send: () => call('POST', `/rules/runs/${id}/retry`), said: 'What failed is tried again.' });
