import { isPlannableDay } from '@crew/core';
import { IsUUID, Matches, MaxLength, registerDecorator, ValidateIf, type ValidationOptions } from 'class-validator';

/** Field rules used more than once; each message is a sentence somebody can act on. */

/** The message for a text that is no day, or none that is accepted. */
export const NO_DAY = 'This is not a date between 1990 and 2199. Write it as 2026-12-14.';

/** A day that exists, as 2026-12-14, in the years 1990 to 2199. */
export function IsDay(options: ValidationOptions = {}): PropertyDecorator {
  return (target, property) =>
    registerDecorator({
      name: 'isDay',
      target: target.constructor,
      propertyName: String(property),
      options: { message: NO_DAY, ...options },
      validator: { validate: isPlannableDay },
    });
}

/** What stands in a field whose kind is known elsewhere. */
export const IsTextOrNumber = (): PropertyDecorator => (target, property) =>
  registerDecorator({
    name: 'isTextOrNumber',
    target: target.constructor,
    propertyName: String(property),
    options: { message: 'Give a text or a number, or null for nothing.' },
    validator: { validate: (value: unknown) => (typeof value === 'string' && value.length <= 2000) || Number.isFinite(value) },
  });

/** An id as the API gives it. */
export const IsId = (options: ValidationOptions = {}): PropertyDecorator =>
  IsUUID('all', { message: 'This is not a valid id. Choose one from the list.', ...options });

/** What a field may be instead of a value of its own. */
export type Absence = 'left-out' | 'null';
const absences = new Map<unknown, Map<string, Set<Absence>>>();

function allow(absence: Absence, passes: (value: unknown) => boolean): PropertyDecorator {
  return (target, property) => {
    const fields = absences.get(target.constructor) ?? new Map<string, Set<Absence>>();
    absences.set(target.constructor, fields.set(String(property), (fields.get(String(property)) ?? new Set()).add(absence)));
    ValidateIf((_, value: unknown) => !passes(value))(target, property);
  };
}

/** A field that may be left out. Unlike the validator's own rule it does not let null through, which would mean something else. */
export const MayBeLeftOut = (): PropertyDecorator => allow('left-out', (value) => value === undefined);

/** A field that may be null, which means something of its own. What its other rules say holds for all other values. */
export const MayBeNull = (): PropertyDecorator => allow('null', (value) => value === null);

/** What each field of a body may be instead of a value; a body has the fields of the bodies it extends. */
export function absencesOf(body: object): ReadonlyMap<string, ReadonlySet<Absence>> {
  const parent = Object.getPrototypeOf(body) as object | null;
  return new Map([...(parent === null ? [] : absencesOf(parent)), ...(absences.get(body) ?? [])]);
}

/** A line of text that is not blank. */
export function IsLine(longest: number, what: string): PropertyDecorator {
  const filled = Matches(/\S/, { message: `Give ${what}.` });
  const short = MaxLength(longest, { message: `Keep ${what} to ${longest} characters.` });
  return (target, property) => {
    filled(target, property);
    short(target, property);
  };
}
