import type { SuggestedAssignee } from '@crew/contract';
import { hourWords } from '../../words/format.ts';

/** Why somebody is suggested: "11 h free then, knows this client, 3 h away". */
export function suggestionWords({ freeMinutes, isFull, knows, awayMinutes }: Omit<SuggestedAssignee, 'person'>): string {
  const room = isFull ? `would be ${hourWords(-freeMinutes)} over` : `${hourWords(freeMinutes)} free afterwards`;
  const known = knows === 'engagement' ? ['knows this work'] : knows === 'client' ? ['knows the client'] : [];
  return [room, ...known, ...(awayMinutes > 0 ? [`away ${hourWords(awayMinutes)} of it`] : [])].join(', ');
}
