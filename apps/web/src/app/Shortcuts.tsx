import { useCallback, useState } from 'react';
import { Link } from 'react-aria-components';
import { useLocation } from 'react-router';
import styled from 'styled-components';
import { Button } from '../ui/Button.tsx';
import { Panel } from '../ui/layout.tsx';
import { useKey } from '../ui/use-key.ts';

const Card = styled(Panel)`
  position: fixed;
  right: 20px;
  bottom: 18px;
  z-index: 35;
  width: min(340px, 92vw);
  padding: 12px 16px 14px;
  box-shadow: 0 6px 22px rgb(10 30 30 / 18%);
  header {
    display: flex;
    justify-content: space-between;
    align-items: center;
    margin-bottom: 6px;
  }
  dl {
    display: grid;
    grid-template-columns: 88px 1fr;
    gap: 5px 10px;
    margin: 0;
  }
  dl > div {
    display: contents;
  }
  h3 {
    margin: 8px 0 4px;
    font-size: 12px;
    color: var(--ink-2);
  }
  > p {
    margin-top: 10px;
  }
  a {
    color: var(--petrol);
  }
  dt {
    font-weight: 650;
  }
  dd {
    margin: 0;
    color: var(--ink-2);
  }
`;

interface ShortcutKey {
  readonly key: string;
  readonly words: string;
  /** The pages it belongs to; left out where it works everywhere. */
  readonly on?: RegExp;
}

const PLAN = /^\/engagements\/(?!start|repeating)[^/]+/;
const KEYS: readonly ShortcutKey[] = [
  {
    key: '↑ ↓ Enter',
    words: 'move through a list and open; the sheet follows',
    on: /^\/(desk|engagements|workload|handoffs|clients|history)/,
  },
  { key: '→ ←', words: 'into a row and back', on: PLAN },
  { key: '→ ←', words: 'the days of a person', on: /^\/workload/ },
  { key: 'n', words: 'new task in the current phase', on: PLAN },
  { key: 'n', words: 'what happens next, on the map', on: /^\/templates\/./ },
  { key: 't', words: 'start your timer on the open task, pause, resume' },
  { key: 'u', words: 'undo' },
  { key: '[ ]', words: 'earlier or later period', on: /^\/(desk|workload|time|calendar)/ },
  { key: 'Alt ↑ ↓', words: 'move a task up or down', on: PLAN },
  { key: 'Alt ← →', words: 'move a task out of its parent or into the one above; on the timeline, by a day', on: PLAN },
  { key: 'Alt ⇧ ← →', words: 'on the timeline, make a task longer or shorter', on: PLAN },
  { key: '1 2 3 …', words: 'go to a place in the bar' },
  { key: 'm', words: 'More: the other places' },
  { key: 'Esc', words: 'close what is open' },
  { key: '?', words: 'show these shortcuts' },
];

/** Our own small set of keys, shown by `?`. */
export function Shortcuts() {
  const [isOpen, setOpen] = useState(false);
  const turn = useCallback(() => setOpen((before) => !before), []);
  const close = useCallback(() => setOpen(false), []);
  useKey('?', turn);
  return isOpen ? <KeyList onClose={close} /> : null;
}

function KeyList({ onClose }: { readonly onClose: () => void }) {
  useKey('Escape', onClose);
  const { pathname } = useLocation();
  const here = KEYS.filter(({ on }) => on?.test(pathname));
  return (
    <Card role="complementary" aria-label="Shortcuts">
      <header>
        <h2>Keyboard shortcuts</h2>
        <Button kind="quiet" aria-label="Close shortcuts" onPress={onClose}>
          ✕
        </Button>
      </header>
      {here.length === 0 ? null : (
        <>
          <h3>On this page</h3>
          <Keys keys={here} />
          <h3>Everywhere</h3>
        </>
      )}
      <Keys keys={KEYS.filter(({ on }) => on === undefined)} />
      <p>
        <Link href="/guide">Read the guide</Link>
      </p>
    </Card>
  );
}

const Keys = ({ keys }: { readonly keys: readonly ShortcutKey[] }) => (
  <dl>
    {keys.map(({ key, words }) => (
      <div key={`${key} ${words}`}>
        <dt>{key}</dt>
        <dd>{words}</dd>
      </div>
    ))}
  </dl>
);
