import type { Starter, StartersAdded, StarterTemplate, StarterTrade, Trade } from '@crew/contract';
import { useState } from 'react';
import styled from 'styled-components';
import { call } from '../../api/client.ts';
import { useStarters } from '../../api/queries.ts';
import { perform } from '../../session/perform.ts';
import { Button } from '../../ui/Button.tsx';
import { ErrorNote, Loading, Muted, StickyFoot } from '../../ui/layout.tsx';
import { Tick } from '../../ui/Tick.tsx';
import { phone } from '../../ui/tokens.ts';
import { count, hourWords } from '../../words/format.ts';

const Trades = styled.ul`
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(240px, 1fr));
  gap: 6px 16px;
  margin-bottom: 14px;
  small {
    display: block;
    color: var(--ink-2);
  }
`;
const Offers = styled.ul`
  margin-bottom: 14px;
  li {
    padding: 9px 0;
    border-top: 1px solid var(--line-2);
  }
  small {
    display: block;
    color: var(--ink-2);
    margin: 2px 0 0 24px;
  }
`;
const Shape = styled.span`
  display: flex;
  gap: 3px;
  margin: 6px 0 0 24px;
  i {
    flex: 1;
    height: 8px;
    border-radius: 2px;
    background: var(--petrol-mid);
  }
  ${phone} {
    margin-left: 0;
  }
`;

/** What the agency does, and the starter templates that come with it. */
export function TemplateStep({ onNext }: { readonly onNext: () => void }) {
  const { data: trades, error } = useStarters();
  return (
    <>
      <h2>What do you do?</h2>
      <p>Each kind of work brings complete templates: phases, tasks, efforts, dates, what the client does. Change them as you like.</p>
      {error ? <ErrorNote error={error} /> : trades === undefined ? <Loading rows={6} /> : <Offer trades={trades} onNext={onNext} />}
    </>
  );
}

function Offer({ trades, onNext }: { readonly trades: readonly StarterTrade[]; readonly onNext: () => void }) {
  const [chosen, setChosen] = useState<ReadonlySet<Trade>>(new Set());
  const [left, setLeft] = useState<ReadonlySet<Starter>>(new Set());
  const shown = trades.filter(({ trade }) => chosen.has(trade)).flatMap(({ templates }) => templates);
  const adding = shown.filter(({ key, templateId }) => templateId === null && !left.has(key)).map(({ key }) => key);
  const add = async (): Promise<void> => {
    const { isDone } = await perform({
      send: () => call<StartersAdded>('POST', '/starters', { templates: adding }),
      said: ({ templates, roles }) => addedWords(templates.length, roles),
    });
    if (isDone) onNext();
  };
  return (
    <>
      <Trades aria-label="Kinds of work">
        {trades.map(({ trade, name, about }) => (
          <li key={trade}>
            <Tick isSelected={chosen.has(trade)} onChange={() => setChosen(turned(chosen, trade))}>
              <span>
                {name} <small>{about}</small>
              </span>
            </Tick>
          </li>
        ))}
      </Trades>
      <Offers aria-label="Templates">
        {shown.map((template) => (
          <OfferLine
            key={template.key}
            template={template}
            isTicked={!left.has(template.key)}
            onTurn={() => setLeft(turned(left, template.key))}
          />
        ))}
      </Offers>
      <StickyFoot $gap={8}>
        <Button kind="primary" isDisabled={adding.length === 0} onPress={() => void add()}>
          {adding.length === 0 ? 'Add templates' : `Add ${count(adding.length, 'template')}`}
        </Button>
        <Button kind="quiet" onPress={onNext}>
          Skip
        </Button>
      </StickyFoot>
    </>
  );
}

interface OfferLineProps {
  readonly template: StarterTemplate;
  readonly isTicked: boolean;
  readonly onTurn: () => void;
}

function OfferLine({ template, isTicked, onTurn }: OfferLineProps) {
  const { name, description, phases, taskCount, effortMinutes, templateId } = template;
  return (
    <li>
      {templateId === null ? (
        <Tick isSelected={isTicked} onChange={onTurn}>
          <strong>{name}</strong>
        </Tick>
      ) : (
        <span>
          <strong>{name}</strong> <Muted>in your library already</Muted>
        </span>
      )}
      <small>{description}</small>
      <Shape aria-hidden="true">
        {phases.map((phase) => (
          <i key={phase} />
        ))}
      </Shape>
      <small>
        {phases.join(' · ')} · {count(taskCount, 'task')}, {hourWords(effortMinutes)}
      </small>
    </li>
  );
}

const turned = <Item,>(items: ReadonlySet<Item>, item: Item): ReadonlySet<Item> =>
  new Set(items.has(item) ? [...items].filter((other) => other !== item) : [...items, item]);

const addedWords = (templates: number, roles: readonly string[]): string =>
  roles.length === 0
    ? `${count(templates, 'template')} added.`
    : `${count(templates, 'template')} added, with the ${roles.length === 1 ? 'role' : 'roles'} ${roles.join(', ')}.`;
