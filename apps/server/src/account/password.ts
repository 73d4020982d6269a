import { hash, verify } from '@node-rs/argon2';

/** argon2id with the parameters OWASP names for it: 19 MiB, two passes, one lane. */
const PARAMETERS = { memoryCost: 19_456, timeCost: 2, parallelism: 1 };

/** The hash that is stored; the password itself never is. */
export function hashPassword(password: string): Promise<string> {
  return hash(password, PARAMETERS);
}

/** Whether a password belongs to a hash; an unreadable hash is simply no. */
export async function isPassword(stored: string, password: string): Promise<boolean> {
  try {
    return await verify(stored, password);
  } catch {
    return false;
  }
}
