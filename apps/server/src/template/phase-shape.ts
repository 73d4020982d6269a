import type { TemplateContent, TemplateDifference, TemplatePhase } from '@crew/core';
import type { HandoffState, PhaseState, PhaseEdge } from '@crew/contract';

/** A phase of a running engagement, as far as changing the row of phases is concerned. */
export interface PhaseHere {
  readonly id: string;
  readonly name: string;
  /** The phase of the template it was made from. */
  readonly originId: string | null;
  readonly state: PhaseState;
  readonly afterPhaseId: string | null;
  readonly afterEdge: PhaseEdge;
  readonly afterLag: number;
  /** How far the handoff into it is; null for a phase that begins with the engagement. */
  readonly joint: HandoffState | null;
  /** Tasks in it that were begun, have time logged, or were added here: they would be lost with it. */
  readonly ownTasks: number;
}

/** The phases of an engagement beside those of the newer version of its template. */
export interface Shape {
  readonly here: readonly PhaseHere[];
  readonly after: Pick<TemplateContent, 'phases'>;
}

/** Where a phase stands in the row: what it follows and how. */
export type Placed = Pick<PhaseHere, 'id' | 'originId' | 'afterPhaseId' | 'afterEdge' | 'afterLag'>;

const PLACE_FIELDS = new Set(['afterPhaseId', 'afterEdge', 'afterLag']);

/** Whether a changed phase follows something else, or otherwise. */
export const changesPlace = ({ fields }: TemplateDifference): boolean => fields.some(({ field }) => PLACE_FIELDS.has(field));

/** Why a phase cannot come, go or follow something else in this engagement, or null when it can. */
export function phaseHindrance(difference: TemplateDifference, shape: Shape): string | null {
  if (difference.kind === 'added') return hindranceOfAdded(difference.id, shape);
  const phase = shape.here.find(({ originId }) => originId === difference.id);
  if (phase === undefined) return 'this phase was left out here';
  if (difference.kind === 'changed' && !changesPlace(difference)) return null;
  if (phase.state !== 'ahead')
    return difference.kind === 'removed' ? 'it has begun here' : 'it has begun here, so it cannot follow another phase';
  const inFlight = flightInto(phase);
  if (inFlight !== null) return inFlight;
  if (difference.kind === 'changed') return hindranceOfBefore(difference.id, shape);
  const left = shape.here.filter((other) => other.id !== phase.id);
  if (left.length === 0) return 'it is the only phase here';
  return phase.ownTasks === 0
    ? null
    : `${phase.ownTasks === 1 ? 'a task' : `${phase.ownTasks} tasks`} of this engagement would be lost with it`;
}

function hindranceOfAdded(originId: string, shape: Shape): string | null {
  const blocked = hindranceOfBefore(originId, shape);
  if (blocked !== null) return blocked;
  for (const follower of followersHere(originId, shape)) {
    if (follower.state !== 'ahead') return `${follower.name}, which follows it, has begun here`;
    const inFlight = flightInto(follower);
    if (inFlight !== null) return inFlight;
  }
  return null;
}

/** A phase can only come behind one that is still to be handed on. */
function hindranceOfBefore(originId: string, shape: Shape): string | null {
  const before = nearestHere(originId, shape);
  if (before === null) return 'it would have begun with the engagement';
  return before.state === 'over' ? `${before.name}, which it follows, is over here` : null;
}

const flightInto = (phase: PhaseHere): string | null =>
  phase.joint === null || phase.joint === 'getting-ready' ? null : `${phase.name} is just being handed on`;

/** The nearest phase before it, as the newer version has it, that is part of this engagement. */
function nearestHere(originId: string, { here, after }: Shape): PhaseHere | null {
  const byId = new Map(after.phases.map((phase) => [phase.id, phase]));
  for (let at = byId.get(originId)?.afterPhaseId ?? null; at !== null; at = byId.get(at)?.afterPhaseId ?? null) {
    const found = here.find((phase) => phase.originId === at);
    if (found !== undefined) return found;
  }
  return null;
}

/** The phases here that follow it in the newer version, however many left-out ones lie between. */
function followersHere(originId: string, { here, after }: Shape): PhaseHere[] {
  return after.phases
    .filter((phase) => phase.afterPhaseId === originId)
    .flatMap((phase) => {
      const found = here.find((other) => other.originId === phase.id);
      return found === undefined ? followersHere(phase.id, { here, after }) : [found];
    });
}

/** What is to change in the row of phases; ids are those of the template's phases. */
export interface ShapeChange {
  readonly added: readonly string[];
  readonly removed: readonly string[];
  /** Those that follow something else, or otherwise. */
  readonly moved: readonly string[];
  /** The id of a phase that comes. */
  readonly idOf: (originId: string) => string;
}

/**
 * The row of phases after a change that nothing hinders, in its order. What followed a phase
 * that goes follows the one before it; a phase that comes stands right behind the one it
 * follows, and what follows it in the template follows it here.
 */
export function shapeAfter(shape: Shape, { added, removed, moved, idOf }: ShapeChange): Placed[] {
  const wanted = new Map(shape.after.phases.map((phase) => [phase.id, phase]));
  let row: readonly Placed[] = shape.here;
  for (const origin of removed) row = without(row, origin);
  for (const { id: origin } of shape.after.phases) {
    const phase = wanted.get(origin) as TemplatePhase;
    if (added.includes(origin)) row = withAdded(row, { phase, id: idOf(origin), wanted });
    else if (moved.includes(origin))
      row = row.map((placed) => (placed.originId === origin ? { ...placed, ...placeOf(phase, { row, wanted }) } : placed));
  }
  return inOrder(row);
}

function without(row: readonly Placed[], origin: string): Placed[] {
  const gone = row.find((placed) => placed.originId === origin);
  return row
    .filter((placed) => placed !== gone)
    .map((placed) => (gone !== undefined && placed.afterPhaseId === gone.id ? { ...placed, afterPhaseId: gone.afterPhaseId } : placed));
}

interface Wanted {
  readonly row: readonly Placed[];
  readonly wanted: ReadonlyMap<string, TemplatePhase>;
}

/** What a phase follows here: the nearest one before it that is in the row. */
function placeOf(phase: TemplatePhase, { row, wanted }: Wanted): Pick<Placed, 'afterPhaseId' | 'afterEdge' | 'afterLag'> {
  let at = phase.afterPhaseId;
  while (at !== null && !row.some((placed) => placed.originId === at)) at = wanted.get(at)?.afterPhaseId ?? null;
  const before = row.find((placed) => placed.originId === at && at !== null);
  return { afterPhaseId: before?.id ?? null, afterEdge: phase.afterEdge, afterLag: phase.afterLag };
}

function withAdded(
  row: readonly Placed[],
  { phase, id, wanted }: { readonly phase: TemplatePhase; readonly id: string; readonly wanted: Wanted['wanted'] },
): Placed[] {
  const place = placeOf(phase, { row, wanted });
  const comes: Placed = { id, originId: phase.id, ...place };
  const follows = (origin: string | null): boolean => {
    for (
      let at = origin === null ? null : (wanted.get(origin)?.afterPhaseId ?? null);
      at !== null;
      at = wanted.get(at)?.afterPhaseId ?? null
    ) {
      if (at === phase.id) return true;
      if (row.some((placed) => placed.originId === at)) return false;
    }
    return false;
  };
  const rest = row.map((placed) => {
    if (placed.afterPhaseId !== place.afterPhaseId || !follows(placed.originId)) return placed;
    const next = wanted.get(placed.originId as string) as TemplatePhase;
    return { ...placed, afterPhaseId: id, afterEdge: next.afterEdge, afterLag: next.afterLag };
  });
  const at = rest.findIndex((placed) => placed.id === place.afterPhaseId) + 1;
  return [...rest.slice(0, at), comes, ...rest.slice(at)];
}

/** Every phase stands behind the one it follows; otherwise the order stays. */
function inOrder(row: readonly Placed[]): Placed[] {
  const done: Placed[] = [];
  let left = [...row];
  while (left.length > 0) {
    const next = left.find((placed) => !left.some((other) => other.id === placed.afterPhaseId)) ?? (left[0] as Placed);
    done.push(next);
    left = left.filter((placed) => placed !== next);
  }
  return done;
}
