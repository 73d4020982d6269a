import { parseDay } from '@crew/core';
import { IsUUID, Matches, MaxLength, registerDecorator, type ValidationOptions } from 'class-validator';

/** Field rules used more than once; each message is a sentence somebody can act on. */

/** A day that exists, as 2026-12-14. */
export function IsDay(options: ValidationOptions = {}): PropertyDecorator {
  return (target, property) =>
    registerDecorator({
      name: 'isDay',
      target: target.constructor,
      propertyName: String(property),
      options: { message: 'This is no calendar day. Write it as 2026-12-14.', ...options },
      validator: { validate: (value: unknown) => typeof value === 'string' && parseDay(value) !== null },
    });
}

/** An id as the API hands them out. */
export const IsId = (options: ValidationOptions = {}): PropertyDecorator =>
  IsUUID('all', { message: 'This is no id. Choose one from the list.', ...options });

/** A line of text that is not blank. */
export function IsLine(longest: number, what: string): PropertyDecorator {
  const filled = Matches(/\S/, { message: `Give ${what}.` });
  const short = MaxLength(longest, { message: `Keep ${what} to ${longest} characters.` });
  return (target, property) => {
    filled(target, property);
    short(target, property);
  };
}
