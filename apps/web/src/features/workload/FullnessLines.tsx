import type { IsoDay } from '@crew/core';
import { LOOK_AHEAD_DAYS, type Fullness, type LoadEffect } from '@crew/contract';
import { Fragment } from 'react';
import { Toned } from '../../ui/text.tsx';
import styled from 'styled-components';
import { dayWords, hourWords } from '../../words/format.ts';

const Hint = styled.p`
  margin-top: 12px;
  font-size: 12.5px;
`;

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

/** The busiest day in percent of what is open; work on a day with nothing open has no percent. */
const peakWords = ({ peak }: Fullness): string =>
  peak.capacity === 0 ? (peak.load === 0 ? '0 %' : 'a day off') : `${Math.round((peak.load * 100) / peak.capacity)} %`;

/** For everybody whose work would change: the busiest day before and after, and hours over when there are any. */
export function FullnessLines({ people, today }: { readonly people: readonly LoadEffect[]; readonly today: IsoDay }) {
  const lines = people.flatMap((effect) => linesOf(effect, today));
  if (lines.length === 0) return people.length === 0 ? null : <Hint>Nobody’s busiest day changes.</Hint>;
  return (
    <List aria-label="Before and after">
      {lines.map(({ key, what, title, from, to, isWorse }) => (
        <Fragment key={key}>
          <dt title={title}>{what}</dt>
          <Toned as="dd" $tone={isWorse ? 'bad' : null}>
            <s>{from}</s>
            {to}
          </Toned>
        </Fragment>
      ))}
    </List>
  );
}

interface Line {
  readonly key: string;
  readonly what: string;
  readonly title?: string;
  readonly from: string;
  readonly to: string;
  readonly isWorse: boolean;
}

/** What changes for somebody; what stays is no news. */
function linesOf({ person, before, after }: LoadEffect, today: IsoDay): Line[] {
  const first = person.name.split(' ')[0];
  const peak = {
    what: `${first}, busiest day`,
    title: `busiest day: ${dayWords(after.peak.date, today)}`,
    from: peakWords(before),
    to: peakWords(after),
  };
  const over = { what: `${first}, over in the next ${LOOK_AHEAD_DAYS} days`, from: hourWords(before.over), to: hourWords(after.over) };
  return [
    ...(peak.from === peak.to ? [] : [{ ...peak, key: `${person.id} peak`, isWorse: isFuller(before, after) }]),
    ...(over.from === over.to ? [] : [{ ...over, key: `${person.id} over`, isWorse: after.over > before.over }]),
  ];
}

const isFuller = (before: Fullness, after: Fullness): boolean =>
  after.peak.load > after.peak.capacity && after.peak.load - after.peak.capacity > before.peak.load - before.peak.capacity;
