import { readTopics, type Topic } from '@crew/contract';

/** This window, as the server knows it: it is not told of what it changed itself. */
export const WINDOW = Array.from(crypto.getRandomValues(new Uint8Array(12)), (byte) => byte.toString(16).padStart(2, '0')).join('');

let touched = new Set<Topic>();

/** Remembers what a change has touched, as its answer says; one that says nothing may have touched anything. */
export function keepTouched(said: string | null): void {
  for (const topic of said === null ? (['everything'] as const) : readTopics(said)) touched.add(topic);
}

/** What changes have touched since this was last asked. */
export function takeTouched(): Topic[] {
  const topics = [...touched];
  touched = new Set();
  return topics;
}
