import type { Baton, HandoffState, PhaseState } from '@crew/contract';

const READY_WITHIN_DAYS = 14;

/**
 * What the baton on a joint shows. A handoff nobody has made yet is getting ready once its
 * phase runs and ends within two weeks; before that it is not due.
 */
export function batonOf(joint: {
  readonly handoff: HandoffState | null;
  readonly phaseState: PhaseState;
  readonly finish: string;
  readonly today: string;
}): Baton {
  if (joint.handoff === null) return 'not-due';
  if (joint.handoff !== 'getting-ready') return joint.handoff;
  const isNear = Date.parse(joint.finish) - Date.parse(joint.today) <= READY_WITHIN_DAYS * 86_400_000;
  return joint.phaseState === 'running' && isNear ? 'getting-ready' : 'not-due';
}
