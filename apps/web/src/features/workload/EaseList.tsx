import type { IsoDay } from '@crew/core';
import { Trouble, Note, Toned, Earlier } from '../../ui/text.tsx';
import type { EaseProposalView, EaseView } from '@crew/contract';
import { useState } from 'react';
import styled from 'styled-components';
import { Button } from '../../ui/Button.tsx';
import { Tick } from '../../ui/Tick.tsx';
import { count, hourWords } from '../../words/format.ts';
import { reasonWords, stepWords } from './ease-words.ts';
import { FullnessLines } from './FullnessLines.tsx';
import type { Trial } from './use-shift.ts';

const Gain = styled.strong`
  font-weight: 650;
`;

const Choice = styled(Tick)`
  align-items: flex-start;
  padding: 10px 2px;
  border-top: 1px solid var(--line-2);
  &::before {
    margin-top: 2px;
  }
`;
const Words = styled.span`
  display: grid;
  flex: 1;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 2px 10px;
  min-width: 0;
  b {
    color: var(--moss);
    font-weight: 650;
    white-space: nowrap;
  }
  small {
    grid-column: 1 / -1;
    font-size: 12px;
    color: var(--ink-2);
  }
`;

/** Stays in sight while the proposals scroll: what the choice does is what one looks for. */
const Outcome = styled.div`
  position: sticky;
  bottom: -20px;
  padding: 2px 0 16px;
  background: var(--panel);
  button {
    margin-top: 12px;
  }
`;
const SHOWN = 6;

interface EaseListProps {
  readonly ease: EaseView;
  readonly chosen: ReadonlySet<string>;
  readonly trial: Trial;
  readonly today: IsoDay;
  readonly onToggle: (id: string) => void;
  readonly onApplied: () => void;
}

/** What could ease somebody's load: any of it is chosen, seen together for everybody touched, and taken in one step. */
export function EaseList({ ease, chosen, trial, today, onToggle, onApplied }: EaseListProps) {
  const first = ease.person.name.split(' ')[0] ?? '';
  const [isAllShown, setAllShown] = useState(false);
  const shown = ease.proposals.filter(({ id }, index) => isAllShown || index < SHOWN || chosen.has(id));
  if (ease.proposals.length === 0)
    return (
      <Note>
        Nothing helps without overloading somebody else: nobody with the role has room, and no task has slack. Agree a later date, or less
        work.
      </Note>
    );
  const apply = async (): Promise<void> => {
    if (await trial.apply(`${count(chosen.size, 'change')} applied for ${first}.`)) onApplied();
  };
  return (
    <>
      <div role="group" aria-label={`Proposals for ${ease.person.name}`}>
        {shown.map((proposal) => (
          <Proposal
            key={proposal.id}
            proposal={proposal}
            owner={first}
            today={today}
            isChosen={chosen.has(proposal.id)}
            onToggle={onToggle}
          />
        ))}
      </div>
      {shown.length === ease.proposals.length ? null : (
        <Button kind="quiet" onPress={() => setAllShown(true)}>
          Show {ease.proposals.length - shown.length} more
        </Button>
      )}
      <Outcome>
        {chosen.size === 0 ? null : <Together trial={trial} ease={ease} chosen={chosen} today={today} />}
        <Button
          kind="primary"
          isDisabled={chosen.size === 0 || trial.tried === undefined || trial.isWorking || trial.isTaking}
          onPress={() => void apply()}
        >
          {chosen.size === 0 ? 'Choose what to apply' : `Apply ${count(chosen.size, 'change')}`}
        </Button>
      </Outcome>
    </>
  );
}

interface ProposalProps {
  readonly proposal: EaseProposalView;
  readonly owner: string;
  readonly today: IsoDay;
  readonly isChosen: boolean;
  readonly onToggle: (id: string) => void;
}

function Proposal({ proposal, owner, today, isChosen, onToggle }: ProposalProps) {
  const { verb, rest } = stepWords(proposal);
  return (
    <Choice isSelected={isChosen} onChange={() => onToggle(proposal.id)}>
      <Words>
        <span>
          <Gain>{verb}</Gain> {rest}
        </span>
        <b>−{hourWords(proposal.relieved)}</b>
        <Toned as="small" $tone={proposal.deadlinesMoved > 0 ? 'bad' : null}>
          {reasonWords(proposal, owner, today)}
        </Toned>
      </Words>
    </Choice>
  );
}

/** All that is chosen, as the plans would really be: people before and after, what follows, and deadlines. */
function Together({
  trial,
  ease,
  chosen,
  today,
}: {
  readonly trial: Trial;
  readonly ease: EaseView;
  readonly chosen: ReadonlySet<string>;
  readonly today: IsoDay;
}) {
  if (trial.problem !== null) return <Trouble words={trial.problem} />;
  if (trial.tried === undefined) return <Note>Working out before and after…</Note>;
  const own = new Set(ease.proposals.filter(({ id }) => chosen.has(id)).map(({ task }) => task.id));
  const following = trial.tried.effects.flatMap(({ effect }) => effect.moves.filter((move) => !own.has(move.id)));
  const missed = trial.tried.effects.filter(({ effect }) => (effect.promiseSlack?.to ?? 0) < Math.min(0, effect.promiseSlack?.from ?? 0));
  return (
    <Earlier $isEarlier={trial.isWorking} aria-live="polite">
      <FullnessLines people={trial.tried.people} today={today} />
      <p style={{ marginTop: 8, fontSize: 12.5, color: missed.length > 0 ? 'var(--brick)' : 'var(--ink-2)' }}>
        {following.length === 0 ? 'No other task moves' : `${count(following.length, 'other task moves', 'other tasks move')}`}
        {missed.length === 0
          ? ', no promise is missed.'
          : `; ${missed.map(({ engagement }) => engagement.name).join(', ')} would miss the promise.`}
      </p>
    </Earlier>
  );
}
