import type { Fullness, LoadEffect } from '@crew/contract';
import styled from 'styled-components';
import { dayWords, hourWords } from '../../words/format.ts';

const List = styled.dl`
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 5px 12px;
  margin-top: 12px;
  padding-top: 11px;
  border-top: 1px solid var(--line-2);
  dd {
    margin: 0;
    text-align: right;
    white-space: nowrap;
    font-weight: 650;
  }
  s {
    margin-right: 6px;
    font-weight: 400;
    color: var(--ink-3);
  }
`;

/** The fullest day in percent of what is open; work on a day with nothing open has no percent. */
const peakWords = ({ peak }: Fullness): string =>
  peak.capacity === 0 ? (peak.load === 0 ? '0 %' : 'a day off') : `${Math.round((peak.load * 100) / peak.capacity)} %`;

/** For everybody whose work would change: the fullest day before and after, and hours over when there are any. */
export function FullnessLines({ people, today }: { readonly people: readonly LoadEffect[]; readonly today: string }) {
  if (people.length === 0) return null;
  return (
    <List aria-label="Before and after">
      {people.flatMap(({ person, before, after }) => {
        const first = person.name.split(' ')[0];
        const lines = [
          <dt key={`${person.id} peak`} title={`fullest day: ${dayWords(after.peak.date, today)}`}>
            {first}, fullest day
          </dt>,
          <dd key={`${person.id} peak after`} style={isFuller(before, after) ? { color: 'var(--brick)' } : undefined}>
            {peakWords(before) === peakWords(after) ? null : <s>{peakWords(before)}</s>}
            {peakWords(after)}
          </dd>,
        ];
        if (before.over === 0 && after.over === 0) return lines;
        return [
          ...lines,
          <dt key={`${person.id} over`}>{first}, over in all</dt>,
          <dd key={`${person.id} over after`} style={after.over > before.over ? { color: 'var(--brick)' } : undefined}>
            {before.over === after.over ? null : <s>{hourWords(before.over)}</s>}
            {hourWords(after.over)}
          </dd>,
        ];
      })}
    </List>
  );
}

const isFuller = (before: Fullness, after: Fullness): boolean =>
  after.peak.load > after.peak.capacity && after.peak.load - after.peak.capacity > before.peak.load - before.peak.capacity;
