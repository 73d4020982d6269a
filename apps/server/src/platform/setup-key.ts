import { createHmac, timingSafeEqual } from 'node:crypto';

/** Letters and digits that are not taken for one another when read aloud. */
const ALPHABET = '23456789ABCDEFGHJKMNPQRSTVWXYZ';
const LENGTH = 16;

/**
 * The key that whoever sets up the agency has to know: 16 characters (78 bits) in groups of four, as `K7QM-…`. It
 * follows from the installation's secret, so that every process knows it and nothing has to be kept.
 */
export function setupKeyOf(secret: string): string {
  const bytes = createHmac('sha256', secret).update('nimble-crew set-up key').digest();
  const letters = [...bytes.subarray(0, LENGTH)].map((byte) => ALPHABET[byte % ALPHABET.length]).join('');
  return letters.replace(/(.{4})(?!$)/g, '$1-');
}

/** Whether what was typed is the key; case, dashes and blanks do not matter. */
export function isSetupKey(secret: string, typed: string): boolean {
  const digest = (text: string): Buffer =>
    createHmac('sha256', secret)
      .update(text.toUpperCase().replace(/[^0-9A-Z]/g, ''))
      .digest();
  return timingSafeEqual(digest(typed), digest(setupKeyOf(secret)));
}
