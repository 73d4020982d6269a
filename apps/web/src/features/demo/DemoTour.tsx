import { Link } from 'react-aria-components';
import styled from 'styled-components';
import { useHint } from '../../session/hints.ts';
import { useWho } from '../../session/session.tsx';
import { Button } from '../../ui/Button.tsx';
import { Muted, Panel, PanelHead, Push } from '../../ui/layout.tsx';
import { THINGS_TO_TRY } from './things-to-try.ts';

const List = styled.ol`
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(210px, 1fr));
  gap: 8px 18px;
  padding: 10px 14px 12px;
  a {
    color: var(--ink);
    text-decoration-color: var(--petrol-mid);
    text-underline-offset: 3px;
  }
`;

/** In the demo: five things to try for whoever is signed in, until the list is closed. */
export function DemoTour() {
  const me = useWho();
  const { isOpen, close } = useHint('demo');
  if (!me.isDemo || !isOpen) return null;
  return (
    <Panel aria-label="Five things to try" $space="below">
      <PanelHead>
        <h2>Five things to try</h2>
        <Muted>as {me.name}, in this demo</Muted>
        <Push />
        <Button kind="quiet" onPress={close}>
          Close list
        </Button>
      </PanelHead>
      <List>
        {THINGS_TO_TRY[me.access].map(({ text, to }) => (
          <li key={text}>{to === null ? text : <Link href={to}>{text}</Link>}</li>
        ))}
      </List>
    </Panel>
  );
}
