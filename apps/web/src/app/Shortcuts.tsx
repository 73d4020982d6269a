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
  ['↑ ↓ Enter', 'walk a list and open; a sheet follows'],
  ['→ ←', 'into a row and back; in the workload: the days of a person'],
  ['n', 'a new task in the phase that runs'],
  ['t', 'your timer: on the open task, pause, go on'],
  ['u', 'take the last step back'],
  ['[ ]', 'earlier, later'],
  ['Alt ↑ ↓', 'a task up or down among its own'],
  ['Alt ← →', 'out of a task or into the one above; on the timeline: a day'],
  ['Alt ⇧ ← →', 'on the timeline: longer or shorter'],
  ['Esc', 'close what is open'],
  ['?', 'this list'],
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
        <h2>Keys</h2>
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
