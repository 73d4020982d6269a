import type { SetupState, SetupStep } from '@crew/contract';
import { Link } from 'react-aria-components';
import styled from 'styled-components';
import { PhaseBar } from '../../ui/PhaseBar.tsx';
import { hiddenText, phone } from '../../ui/tokens.ts';
import { GUIDED, STEP_WORDS, type GuidedStep } from './steps.ts';

const Row = styled.ol`
  display: grid;
  grid-template-columns: repeat(5, minmax(0, 1fr));
  gap: 6px;
  margin-bottom: 14px;
  li {
    font-size: 12.5px;
    color: var(--ink-2);
  }
  a {
    display: block;
    color: inherit;
    border-radius: 4px;
    text-decoration: none;
  }
  [aria-current] {
    color: var(--ink);
    font-weight: 650;
  }
  span + span {
    display: block;
    margin-top: 5px;
  }
  ${phone} {
    li > a > span + span,
    li > span + span {
      ${hiddenText}
    }
  }
`;

const STEPS: readonly SetupStep[] = ['agency', ...GUIDED];

/** The steps as a track: done, current and to come. Each can be opened. */
export function StepTrack({ steps, now }: { readonly steps: SetupState['steps']; readonly now: GuidedStep }) {
  const isDone = (step: SetupStep): boolean => steps.some((one) => one.step === step && one.isDone);
  return (
    <Row aria-label="Steps of setting up">
      {STEPS.map((step) => (
        <li key={step}>
          <Link href={STEP_WORDS[step].to} aria-current={step === now ? 'step' : undefined}>
            <PhaseBar $state={isDone(step) ? 'over' : step === now ? 'running' : 'ahead'} aria-hidden="true" />
            <span>
              {STEP_WORDS[step].name}
              {isDone(step) ? ' ✓' : ''}
            </span>
          </Link>
        </li>
      ))}
    </Row>
  );
}
