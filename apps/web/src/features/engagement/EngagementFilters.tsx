import { ENGAGEMENT_ORDERS, phaseAt, STANDINGS, type EngagementFilter, type EngagementOrder, type EngagementTrack } from '@crew/contract';
import { useEffect, useRef, useState } from 'react';
import styled from 'styled-components';
import { Button } from '../../ui/Button.tsx';
import { Choose, Field, type Choice } from '../../ui/Field.tsx';
import { phone } from '../../ui/tokens.ts';
import { STANDING_NAMES } from '../../words/standing.ts';
import { isNarrowed, type ListWords } from './use-engagement-list.ts';

const Row = styled.div`
  display: grid;
  grid-template-columns: minmax(150px, 1.5fr);
  grid-auto-columns: minmax(0, 1fr);
  grid-auto-flow: column;
  gap: 8px;
  margin-bottom: 12px;
  ${phone} {
    grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
    grid-auto-flow: row;
  }
`;

const Words = styled.div`
  display: flex;
  gap: 8px;
  > :first-child {
    flex: 1;
    min-width: 0;
  }
  ${phone} {
    grid-column: 1 / -1;
  }
`;

/** On a phone the choices open by a button, so that the list is seen first. */
const Narrowing = styled.div<{ $isOpen: boolean }>`
  min-width: 0;
  ${phone} {
    ${({ $isOpen }) => ($isOpen ? '' : 'display: none;')}
  }
`;

const OnPhone = styled.span`
  display: none;
  ${phone} {
    display: block;
  }
`;

const ORDER_NAMES: Readonly<Record<EngagementOrder, string>> = {
  start: 'By start',
  promise: 'By promise',
  standing: 'Worst standing first',
  client: 'By client',
};

const ANY = 'any';

interface FiltersProps {
  /** All there are, before filtering: they determine what can be chosen. */
  readonly tracks: readonly EngagementTrack[];
  readonly filter: EngagementFilter;
  readonly order: EngagementOrder;
  readonly onChange: (words: ListWords) => void;
}

/** Searching, filtering and sorting the list; all of it is kept in the address. */
export function EngagementFilters({ tracks, filter, order, onChange }: FiltersProps) {
  const [isOpen, setOpen] = useState(false);
  const lists: readonly (readonly [
    name: 'client' | 'lead' | 'phase' | 'standing',
    choices: readonly Choice[],
    value: string | undefined,
  ])[] = [
    ['client', choicesOf(tracks.map(({ clientId, client }) => [clientId, client.name])), filter.clientId],
    ['lead', choicesOf(tracks.map(({ lead }) => [lead.id, lead.name])), filter.leadId],
    ['phase', choicesOf(tracks.flatMap((track) => phaseChoice(track))), filter.phase],
    ['standing', standingChoices(tracks), filter.standing],
  ];
  const narrowing = lists.filter(([, , value]) => value !== undefined).length;
  return (
    <Row role="search" aria-label="Which engagements are shown">
      <Words>
        <SearchWords text={filter.text ?? ''} onChange={(text) => onChange({ text })} />
        <OnPhone>
          <Button aria-expanded={isOpen} onPress={() => setOpen(!isOpen)}>
            {narrowing === 0 ? 'Filter and sort' : `Filter and sort (${narrowing})`}
          </Button>
        </OnPhone>
      </Words>
      {lists
        .filter(([, choices, value]) => choices.length > 1 || value !== undefined)
        .map(([name, choices, value]) => (
          <Narrowing key={name} $isOpen={isOpen}>
            <Choose
              {...{ label: `Show by ${name}`, isLabelHidden: true, isTight: true, value: value ?? ANY }}
              choices={[{ id: ANY, name: `Any ${name}` }, ...choices]}
              onChange={(id) => onChange({ [name]: id === ANY ? null : id })}
            />
          </Narrowing>
        ))}
      <Narrowing $isOpen={isOpen}>
        <Choose
          {...{ label: 'Sort', isLabelHidden: true, isTight: true, value: order }}
          choices={ENGAGEMENT_ORDERS.map((id) => ({ id, name: ORDER_NAMES[id] }))}
          onChange={(id) => onChange({ sort: id === 'start' ? null : id })}
        />
      </Narrowing>
    </Row>
  );
}

/** The address follows what is typed a moment later, so the field keeps its own text while somebody is in it. */
function SearchWords({ text, onChange }: { readonly text: string; readonly onChange: (text: string) => void }) {
  const [typed, setTyped] = useState(text);
  const input = useRef<HTMLElement>(null);
  useEffect(() => {
    if (document.activeElement !== input.current) setTyped(text);
  }, [text]);
  const type = (next: string): void => {
    setTyped(next);
    onChange(next);
  };
  return (
    <Field
      {...{ isTight: true, label: '', 'aria-label': 'Search engagements', placeholder: 'Search engagements' }}
      value={typed}
      onChange={type}
      inputRef={(element) => {
        input.current = element;
      }}
    />
  );
}

interface NarrowedProps {
  readonly filter: EngagementFilter;
  readonly shown: number;
  readonly all: number;
  readonly onChange: (words: ListWords) => void;
}

/** How many of all are shown, and a way back to all; nothing while all are shown. */
export function NarrowedWords({ filter, shown, all, onChange }: NarrowedProps) {
  if (!isNarrowed(filter)) return null;
  return (
    <>
      <span aria-live="polite">
        {shown} of {all} shown
      </span>
      <Button kind="quiet" onPress={() => onChange({ text: null, client: null, lead: null, phase: null, standing: null })}>
        Show all
      </Button>
    </>
  );
}

/** What there is to choose, each once, by name. */
const choicesOf = (pairs: readonly (readonly [id: string, name: string])[]): readonly Choice[] =>
  [...new Map(pairs)].map(([id, name]) => ({ id, name })).sort((one, other) => one.name.localeCompare(other.name, 'en', { numeric: true }));

function phaseChoice(track: EngagementTrack): readonly (readonly [string, string])[] {
  const phase = phaseAt(track);
  return phase === undefined ? [] : [[phase.name, phase.name]];
}

function standingChoices(tracks: readonly EngagementTrack[]): readonly Choice[] {
  const kinds = new Set(tracks.flatMap(({ standing }) => standing.map(({ kind }) => kind)));
  return STANDINGS.filter((kind) => kinds.has(kind)).map((id) => ({ id, name: STANDING_NAMES[id] }));
}
