import styled from 'styled-components';
import { useHint } from '../../session/hints.ts';
import { Button } from '../../ui/Button.tsx';
import { Panel, Push } from '../../ui/layout.tsx';

const Line = styled(Panel)`
  display: flex;
  align-items: center;
  gap: 12px;
  padding: 10px 14px;
  p {
    max-width: 120ch;
    color: var(--ink-2);
  }
`;

/** What the desk is for, in two sentences, until the hint is closed. */
export function DeskHint() {
  const { isOpen, close } = useHint('desk');
  if (!isOpen) return null;
  return (
    <Line aria-label="About your desk" $space="below">
      <p>
        Your desk shows what you can start now, what waits and for whom, and how your week fills. When the last task of a phase is done, you
        hand the phase off from here, and whoever is next picks it up on their desk.
      </p>
      <Push />
      <Button kind="quiet" onPress={close}>
        Got it
      </Button>
    </Line>
  );
}
