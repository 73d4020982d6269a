import type { CheckKind } from '@crew/contract';
import type { TemplateCheck } from '@crew/core';

/** When each kind of check is clear. */
export const CHECK_WORDS: Readonly<Record<CheckKind, string>> = {
  'tasks-done': 'our tasks are done',
  'titled-done': 'a certain task is done',
  'steps-done': 'all steps are ticked',
  'client-done': 'the client’s tasks are done',
  'field-filled': 'a custom field is filled in',
  'files-there': 'a file is there',
  word: 'someone confirms',
};

/** What a check is clear by, with what it asks for. */
export function wantsOf({ kind, wants = [] }: TemplateCheck): string {
  const named = wants.join(', ');
  if (named === '') return CHECK_WORDS[kind as CheckKind];
  if (kind === 'files-there') return `a ${named.toUpperCase()} file is there`;
  return kind === 'field-filled' ? `“${named}” is filled in` : `“${named}” is done`;
}

/** What a new check is called when nobody says otherwise; empty where that has to be said. */
export function checkText(kind: CheckKind, want: string | null): string {
  switch (kind) {
    case 'titled-done':
      return want === null ? '' : `${want} done`;
    case 'field-filled':
      return want === null ? '' : `${want} filled in`;
    case 'files-there':
      return want === null ? '' : want === '' ? 'A file is there' : `${want.toUpperCase()} is there`;
    case 'steps-done':
      return 'Every step ticked';
    default:
      return '';
  }
}
