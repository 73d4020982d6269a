import { ValidationPipe, type ValidationError } from '@nestjs/common';
import { Refusal } from './refusal.ts';

interface FieldFault {
  readonly field: string;
  readonly message: string;
}

/** Nobody reads more than so many at once. */
const MOST_FAULTS = 20;

/** Checks bodies against the shared contract; unknown fields are refused, the first faults are listed. */
export const inputPipe = new ValidationPipe({
  transform: true,
  whitelist: true,
  forbidNonWhitelisted: true,
  forbidUnknownValues: true,
  exceptionFactory: (errors: ValidationError[]) => {
    const faults = firstOf(allFaults(errors, ''), MOST_FAULTS);
    const first = faults[0] ?? { field: 'body', message: 'The request could not be read.' };
    return new Refusal('invalid-input', first.message, { field: first.field, details: { fields: faults } });
  },
});

function firstOf<Item>(items: Iterable<Item>, most: number): Item[] {
  const first: Item[] = [];
  for (const item of items) if (first.push(item) === most) break;
  return first;
}

function* allFaults(errors: readonly ValidationError[], path: string): Generator<FieldFault> {
  for (const error of errors) {
    const field = path === '' ? error.property : `${path}.${error.property}`;
    // The rule written last on the property speaks first: existence before length.
    const last = Object.entries(error.constraints ?? {}).at(-1);
    if (last !== undefined) yield { field, message: wordsOf(last[0], field, last[1]) };
    yield* allFaults(error.children ?? [], field);
  }
}

function wordsOf(rule: string, field: string, message: string): string {
  if (rule === 'whitelistValidation') return `“${field}” is not a field here. Leave it out.`;
  return /^[A-Z]/.test(message) ? message : `${message[0]?.toUpperCase()}${message.slice(1)}.`;
}
