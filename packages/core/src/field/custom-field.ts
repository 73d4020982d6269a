import { isPlannableDay } from '../calendar/day.ts';

/** What a custom field holds. */
export const CUSTOM_FIELD_KIND = ['text', 'number', 'date', 'choice', 'person', 'link'] as const;
export type CustomFieldKind = (typeof CUSTOM_FIELD_KIND)[number];

/** A field an agency has added to its tasks. `choices` are those of a choice, else empty. */
export interface CustomFieldDefinition {
  readonly name: string;
  readonly kind: CustomFieldKind;
  readonly choices: readonly string[];
}

/** What stands in a custom field: a number for a number, an ISO day for a date, the id of a person; null while it is open. */
export type CustomFieldValue = string | number | null;

/** A custom field of a task with what stands in it. */
export interface CustomFieldEntry {
  readonly fieldId: string;
  readonly value: CustomFieldValue;
}

const LONGEST_TEXT = 2000;
const MOST = 1e12;

/**
 * Why a value cannot stand in a field, as a sentence, or null when it can. Open is always fine.
 * Whether a person is one of the crew is the caller's to know.
 */
export function customValueFault({ name, kind, choices }: CustomFieldDefinition, value: CustomFieldValue): string | null {
  if (value === null) return null;
  if (kind === 'number')
    return typeof value === 'number' && Number.isFinite(value) && Math.abs(value) <= MOST ? null : `“${name}” is a number, like 12 or 0.5.`;
  if (typeof value !== 'string') return `“${name}” is not a number: give its text.`;
  switch (kind) {
    case 'text':
      return value.length <= LONGEST_TEXT ? null : `Keep “${name}” to 2 000 characters.`;
    case 'date':
      return !isPlannableDay(value) ? `“${name}” is a day, like 2026-12-14.` : null;
    case 'choice':
      return choices.includes(value) ? null : `“${name}” is one of ${choices.join(', ')}.`;
    case 'link':
      return isWebAddress(value) ? null : `“${name}” is an address that begins with https://.`;
    case 'person':
      return null;
  }
}

const isWebAddress = (text: string): boolean => text.length <= LONGEST_TEXT && /^https?:\/\/\S+$/.test(text);

/**
 * What somebody typed, as a value of the field: a decimal comma is read as a point, blank is
 * open. `undefined` when it cannot be read. For texts, numbers and links; days, choices and
 * people are chosen, not typed.
 */
export function readCustomValue(field: CustomFieldDefinition, typed: string): CustomFieldValue | undefined {
  const text = typed.trim();
  if (text === '') return null;
  const value = field.kind === 'number' ? readNumber(text) : text;
  return value === undefined || customValueFault(field, value) !== null ? undefined : value;
}

function readNumber(text: string): number | undefined {
  const plain = text.replace(/(?<=\d)[ \u00a0'](?=\d{3}(?:\D|$))/g, '').replace(',', '.');
  return /^-?\d+(\.\d+)?$/.test(plain) ? Number(plain) : undefined;
}

/** What is wrong with the definition of a field, as a sentence, or null. */
export function customFieldFault({ kind, choices }: Pick<CustomFieldDefinition, 'kind' | 'choices'>): string | null {
  if (kind !== 'choice') return choices.length === 0 ? null : 'Only a choice has things to choose from.';
  if (choices.length < 2) return 'A choice needs at least two things to choose from.';
  const seen = new Set(choices.map((choice) => choice.trim().toLowerCase()));
  return seen.size < choices.length ? 'Two of the things to choose from are the same.' : null;
}
