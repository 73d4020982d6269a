import { ValidationPipe, type ValidationError } from '@nestjs/common';
import { Refusal } from './refusal.ts';

interface FieldFault {
  readonly field: string;
  readonly message: string;
}

/** Checks bodies against the shared contract; unknown fields are refused, every fault is listed. */
export const inputPipe = new ValidationPipe({
  transform: true,
  whitelist: true,
  forbidNonWhitelisted: true,
  forbidUnknownValues: true,
  exceptionFactory: (errors: ValidationError[]) => {
    const faults = errors.flatMap((error) => faultsOf(error, ''));
    const first = faults[0] ?? { field: 'body', message: 'The request could not be read.' };
    return new Refusal('invalid-input', first.message, { field: first.field, details: { fields: faults } });
  },
});

function faultsOf(error: ValidationError, path: string): FieldFault[] {
  const field = path === '' ? error.property : `${path}.${error.property}`;
  // The rule written last on the property speaks first: existence before length.
  const own = Object.entries(error.constraints ?? {}).map(([rule, message]) => ({ field, message: wordsOf(rule, field, message) }));
  const nested = (error.children ?? []).flatMap((child) => faultsOf(child, field));
  return own.length > 0 ? [own[own.length - 1] as FieldFault, ...nested] : nested;
}

function wordsOf(rule: string, field: string, message: string): string {
  if (rule === 'whitelistValidation') return `“${field}” is not a field here. Leave it out.`;
  return /^[A-Z]/.test(message) ? message : `${message[0]?.toUpperCase()}${message.slice(1)}.`;
}
