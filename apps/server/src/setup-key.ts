import { setupKeyOf } from './platform/setup-key.ts';

/** Prints the set-up key of this installation; `./start` and `npm run setup-key` call it. */
const secret = process.env['CREW_SESSION_SECRET'] ?? '';
if (secret === '') throw new Error('Set CREW_SESSION_SECRET to the secret the server runs with; the key follows from it.');
console.log(setupKeyOf(secret));
