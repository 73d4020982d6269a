/** What is said once a handoff is picked up: the phase that starts, or with none the end. */
export const pickedUpWords = (phase: string | null): string =>
  phase === null ? 'Closed: the engagement is finished.' : `${phase} is picked up and starts today.`;
