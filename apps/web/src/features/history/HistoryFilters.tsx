import { can, HISTORY_PART, ruleWords, type HistoryPart } from '@crew/contract';
import { parseDay, type IsoDay } from '@crew/core';
import styled from 'styled-components';
import { useEngagements, useRules } from '../../api/queries.ts';
import { useWho } from '../../session/session.tsx';
import { Button } from '../../ui/Button.tsx';
import { DayField } from '../../ui/DayField.tsx';
import { Choose } from '../../ui/Field.tsx';
import { Fixed } from '../../ui/layout.tsx';

const Filters = styled.div`
  display: flex;
  align-items: center;
  gap: 8px 14px;
  margin: 0 0 10px;
  flex-wrap: wrap;
`;

const PART_WORDS: Readonly<Record<HistoryPart, string>> = {
  statuses: 'statuses and steps',
  assignments: 'who does what',
  dates: 'dates',
  tasks: 'other changes of tasks',
  handoffs: 'phases and handoffs',
  engagements: 'engagements',
  time: 'time',
  calendar: 'calendar and time off',
  templates: 'templates',
  people: 'crew and clients',
  mail: 'Mail',
  rules: 'rules',
  settings: 'settings and fields',
};

const ALL = 'all';
/** The parts of the address that filter the history. */
const NAMES = ['person', 'engagement', 'part', 'rule', 'from', 'to'] as const;

/** The address as the server is asked; a day that is none asks for nothing. */
export const queryOf = (search: URLSearchParams): string =>
  NAMES.flatMap((name) => {
    const value = search.get(name);
    const isAsked = value !== null && ((name !== 'from' && name !== 'to') || parseDay(value) !== null);
    return isAsked ? [`${name}=${encodeURIComponent(value)}`] : [];
  }).join('&');

interface FiltersProps {
  readonly people: readonly { readonly id: string; readonly name: string }[];
  readonly search: URLSearchParams;
  readonly onChange: (next: Readonly<Record<string, string | null>>) => void;
}

/** Filters: by whom, of which engagement, of what kind, on which days. */
export function HistoryFilters({ people, search, onChange }: FiltersProps) {
  const { today } = useWho();
  const { data: open } = useEngagements();
  const { data: finished } = useEngagements({ isFinished: true });
  const named = [...(open ?? []), ...(finished ?? [])]
    .map(({ id, name }) => ({ id, name }))
    .sort((left, right) => left.name.localeCompare(right.name));
  const chosen = (name: string): string => search.get(name) ?? ALL;
  const choose =
    (name: string) =>
    (id: string): void =>
      onChange({ [name]: id === ALL ? null : id });
  const dayOf = (name: 'from' | 'to'): IsoDay | '' => (parseDay(search.get(name)) === null ? '' : (search.get(name) as IsoDay));
  const setDay =
    (name: 'from' | 'to') =>
    (day: IsoDay | ''): void =>
      onChange({ [name]: day === '' ? null : day });
  return (
    <Filters role="group" aria-label="Show only">
      <Choose label="By" isTight choices={[{ id: ALL, name: 'anyone' }, ...people]} value={chosen('person')} onChange={choose('person')} />
      <Choose
        label="Engagement"
        isTight
        choices={[{ id: ALL, name: 'any' }, ...named]}
        value={chosen('engagement')}
        onChange={choose('engagement')}
      />
      <Choose
        label="About"
        isTight
        choices={[{ id: ALL, name: 'everything' }, ...HISTORY_PART.map((part) => ({ id: part, name: PART_WORDS[part] }))]}
        value={chosen('part')}
        onChange={choose('part')}
      />
      <RuleFilter value={chosen('rule')} onChange={choose('rule')} />
      <Fixed $width={150}>
        <DayField label="From" isTight value={dayOf('from')} onChange={setDay('from')} today={today} />
      </Fixed>
      <Fixed $width={150}>
        <DayField label="To" isTight value={dayOf('to')} onChange={setDay('to')} today={today} />
      </Fixed>
      {NAMES.some((name) => search.has(name)) ? (
        <Button kind="quiet" onPress={() => onChange(Object.fromEntries(NAMES.map((name) => [name, null])))}>
          Show all
        </Button>
      ) : null}
    </Filters>
  );
}

/** What one rule did; only for whoever may read rules, once there are any. */
function RuleFilter({ value, onChange }: { readonly value: string; readonly onChange: (id: string) => void }) {
  const { data } = useRules(can(useWho(), 'rule.read'));
  if (data === undefined || data.rules.length === 0) return null;
  return (
    <Fixed $width={170}>
      <Choose
        label="Done by the rule"
        isTight
        choices={[
          { id: ALL, name: 'any, or none' },
          ...data.rules.map(({ id, content }) => ({ id, name: ruleWords(content, data.names) })),
        ]}
        value={value}
        onChange={onChange}
      />
    </Fixed>
  );
}
