import { ZxcvbnFactory } from '@zxcvbn-ts/core';
import { adjacencyGraphs, dictionary } from '@zxcvbn-ts/language-common';
import { Refusal } from '../platform/refusal.ts';

/** Guessed in fewer than a million tries, by the list of common passwords and what people do to them. */
const EASY_SCORE = 1;
/** Longer passwords are no easier to guess, and take long to check. */
const LOOKED_AT = 64;

/** The list is unpacked when somebody first chooses a password, not at every start. */
let estimator: ZxcvbnFactory | null = null;

/** Refuses a password that is in the list of common ones, or close to one that is. */
export function refuseWeakPassword(password: string): void {
  estimator ??= new ZxcvbnFactory({ dictionary: { common: dictionary['passwords-common'] }, graphs: adjacencyGraphs });
  if (estimator.check(password.slice(0, LOOKED_AT)).score > EASY_SCORE) return;
  throw new Refusal(
    'invalid-input',
    'This password is one of the first that would be guessed. Choose another, such as a few words that do not belong together.',
    {
      field: 'password',
    },
  );
}
