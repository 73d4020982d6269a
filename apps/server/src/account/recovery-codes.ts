import { createHmac } from 'node:crypto';

const HOW_MANY = 10;
/** Without letters and digits that are easily mistaken for each other. */
const LETTERS = 'abcdefghjkmnpqrstuvwxyz23456789';
const LENGTH = 12;

/** Ten codes of 12 letters (59 bits each) that follow from a seed, as `abcd-efgh-jkmn`. */
export function recoveryCodesOf(seed: Buffer): string[] {
  return Array.from({ length: HOW_MANY }, (_, place) => {
    const digest = createHmac('sha256', seed).update(`recovery code ${place}`).digest();
    const letters = Array.from({ length: LENGTH }, (__, at) => LETTERS[digest.readUInt16BE(at * 2) % LETTERS.length]).join('');
    return letters.replace(/(.{4})(?=.)/g, '$1-');
  });
}

/** The place of a code in the list, however it was typed; −1 for one that is none of them. */
export const placeOfCode = (seed: Buffer, typed: string): number => {
  const plain = typed.toLowerCase().replace(/[\s-]/g, '');
  return recoveryCodesOf(seed).findIndex((code) => code.replaceAll('-', '') === plain);
};
