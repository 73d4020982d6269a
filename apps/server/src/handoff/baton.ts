import { daysBetween, type IsoDay } from '@crew/core';
import type { Baton, HandoffState, PhaseState } from '@crew/contract';

const READY_WITHIN_DAYS = 14;

/**
 * The state of the baton between two phases. A handoff is getting ready once its phase runs and ends
 * within two weeks; before that it is not due.
 */
export function batonOf(joint: {
  readonly handoff: HandoffState | null;
  readonly phaseState: PhaseState;
  readonly finish: IsoDay;
  readonly today: IsoDay;
}): Baton {
  if (joint.handoff === null) return 'not-due';
  if (joint.handoff !== 'getting-ready') return joint.handoff;
  const isNear = daysBetween(joint.today, joint.finish) <= READY_WITHIN_DAYS;
  return joint.phaseState === 'running' && isNear ? 'getting-ready' : 'not-due';
}
