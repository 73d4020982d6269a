import { Type } from 'class-transformer';
import { ArrayMaxSize, IsArray, IsInt, IsObject, IsString, Matches, Max, MaxLength, Min, ValidateNested } from 'class-validator';

/** Rules of fields that tasks have in engagements and in templates alike. */

/** Working days, whole. */
export const MOST_DAYS = 2_000;
const MOST_MINUTES = 600_000;

/** Several rules as one. */
const all =
  (...rules: readonly PropertyDecorator[]): PropertyDecorator =>
  (target, property) =>
    rules.forEach((rule) => rule(target, property));

/** A text as long as anybody writes about a task. */
export const IsDescription = (): PropertyDecorator =>
  all(IsString({ message: 'A description is text.' }), MaxLength(20_000, { message: 'Keep the description to 20 000 characters.' }));

/** A length in working days; a milestone has none. */
export const IsLength = (): PropertyDecorator =>
  all(
    IsInt({ message: 'Length is a whole number of working days.' }),
    Min(0, { message: 'Length is at least 0 working days.' }),
    Max(MOST_DAYS, { message: `Length is at most ${MOST_DAYS} working days.` }),
  );

/** Effort in minutes. */
export const IsEffort = (): PropertyDecorator =>
  all(
    IsInt({ message: 'Effort is a whole number of minutes.' }),
    Min(0, { message: 'Effort is at least 0.' }),
    Max(MOST_MINUTES, { message: 'Effort is at most 10 000 hours.' }),
  );

/** A list of words that are not blank; `what` as in “the labels”, `each` says what one of them is. */
export const AreWords = (list: {
  readonly what: string;
  readonly most: number;
  readonly longest: number;
  readonly each: string;
}): PropertyDecorator =>
  all(
    IsArray({ message: `Give ${list.what} as a list.` }),
    ArrayMaxSize(list.most, { message: `Keep ${list.what} to ${list.most}.` }),
    IsString({ each: true, message: list.each }),
    MaxLength(list.longest, { each: true, message: `Keep each to ${list.longest} characters.` }),
    Matches(/\S/, { each: true, message: list.each }),
  );

/** The labels of a task. */
export const AreLabels = (): PropertyDecorator =>
  AreWords({ what: 'the labels', most: 20, longest: 40, each: 'A label is a word or two.' });

/** A list of parts, each by its own rules; `what` as in “the links”. */
export const AreParts = (
  part: () => new () => object,
  { what, most }: { readonly what: string; readonly most: number },
): PropertyDecorator =>
  all(
    IsArray({ message: `Give ${what} as a list.` }),
    ArrayMaxSize(most, { message: `Keep ${what} to ${most}.` }),
    // Without this a list in place of a part has nothing that could be wrong.
    IsObject({ each: true, message: `Give each of ${what} with its fields.` }),
    ValidateNested({ each: true }),
    Type(part) as PropertyDecorator,
  );
