import type { EngagementPlan } from '@crew/contract';
import { useRef, useState, type SyntheticEvent } from 'react';
import type { Key, Selection } from 'react-aria-components';
import type { Heading } from './outline-headings.ts';

/** What is unfolded. Phases that are over are folded at first; what somebody folded or unfolded stays so when the plan changes. */
export function useFolding({ engagement, phases, tasks }: EngagementPlan, headings: readonly Heading[]) {
  const [turned, setTurned] = useState<ReadonlySet<string>>(new Set());
  const foldable = [...headings.map((heading) => heading.id), ...tasks.filter((task) => task.isGroup).map((task) => task.id)];
  const isFoldedAtFirst = (id: string): boolean =>
    engagement.state !== 'finished' && phases.some((phase) => phase.id === id && phase.state === 'over');
  return {
    expanded: new Set<Key>(foldable.filter((id) => turned.has(id) === isFoldedAtFirst(id))),
    expand: (keys: Set<Key>): void => setTurned(new Set(foldable.filter((id) => keys.has(id) === isFoldedAtFirst(id)))),
  };
}

interface Chosen {
  readonly selected: Selection;
  /** The address as last seen, and as it will be once what was said has arrived there. */
  readonly seen: string;
  readonly awaited: readonly string[];
}

/**
 * What is chosen, as the list itself last said it: it remembers from where a row of tasks is
 * chosen with Shift, which ids do not. The address follows a moment later; when it says
 * something the list did not, such as after Back, the list follows the address.
 */
export function useChosen(
  plan: EngagementPlan,
  chosen: readonly string[],
  onChoose: (taskIds: readonly string[], isByBox: boolean) => void,
) {
  const isBox = useRef(false);
  const address = chosen.join();
  const [state, setState] = useState<Chosen>({ selected: new Set(chosen), seen: address, awaited: [] });
  if (address !== state.seen) {
    const index = state.awaited.indexOf(address);
    if (index >= 0) setState({ ...state, seen: address, awaited: state.awaited.slice(index + 1) });
    else setState({ selected: new Set(chosen), seen: address, awaited: [] });
  }
  return {
    selected: state.selected,
    choose: (keys: Selection): void => {
      const ids = keys === 'all' ? plan.tasks.map((task) => task.id) : [...keys].map(String);
      setState((before) => ({ ...before, selected: keys, awaited: [...before.awaited, ids.join()] }));
      onChoose(ids, isBox.current);
    },
    /** Notes whether the choice that follows is made by a box. */
    noteBox: ({ target }: SyntheticEvent): void => {
      isBox.current = target instanceof Element && target.closest('[data-box]') !== null;
    },
  };
}
