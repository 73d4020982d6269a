import { useCallback, useState } from 'react';
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
  dt {
    font-weight: 650;
  }
  dd {
    margin: 0;
    color: var(--ink-2);
  }
`;

const KEYS: readonly (readonly [string, string])[] = [
  ['↑ ↓ Enter', 'move through a list and open; the sheet follows'],
  ['→ ←', 'into a row and back; in Workload, the days of a person'],
  ['n', 'new task in the current phase'],
  ['t', 'start your timer on the open task, pause, resume'],
  ['u', 'undo'],
  ['[ ]', 'earlier or later period'],
  ['Alt ↑ ↓', 'move a task up or down'],
  ['Alt ← →', 'move a task out of its parent or into the one above; on the timeline, by a day'],
  ['Alt ⇧ ← →', 'on the timeline, make a task longer or shorter'],
  ['1 2 3 …', 'go to a place in the bar'],
  ['m', 'More: the other places'],
  ['Esc', 'close what is open'],
  ['?', 'show these shortcuts'],
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
  return (
    <Card role="complementary" aria-label="Shortcuts">
      <header>
        <h2>Keyboard shortcuts</h2>
        <Button kind="quiet" aria-label="Close shortcuts" onPress={onClose}>
          ✕
        </Button>
      </header>
      <dl>
        {KEYS.map(([key, words]) => (
          <div key={key}>
            <dt>{key}</dt>
            <dd>{words}</dd>
          </div>
        ))}
      </dl>
    </Card>
  );
}
