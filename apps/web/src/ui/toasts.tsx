import { troubleWords } from '../api/client.ts';
import { useSyncExternalStore } from 'react';
import styled from 'styled-components';
import { Button } from './Button.tsx';
import { phone } from './tokens.ts';

/** A notice of something done, with the way back while there is one. */
export interface Notice {
  readonly id: number;
  readonly text: string;
  readonly tone: 'done' | 'trouble';
  readonly undo?: Undo;
  /** The change it takes back: another notice of the same one takes its place. */
  readonly change?: string;
}

/** Takes a step back; what it answers is said instead of the usual word. */
export type Undo = () => Promise<string | void>;

const SHOWN_MS = 9000;
let notices: readonly Notice[] = [];
/** The steps that can be taken back, also those whose notice is gone; the newest last. */
let steps: readonly Notice[] = [];
const MOST_STEPS = 20;
let lastId = 0;
/** Whether the pointer or the focus is on the notices. */
let isHeld = false;
const listeners = new Set<() => void>();

function set(next: readonly Notice[]): void {
  notices = next;
  for (const listener of listeners) listener();
}

/** Shows a notice; with `undo` it offers to take the step back. */
export function notify(text: string, more: Partial<Pick<Notice, 'undo' | 'change' | 'tone'>> = {}): void {
  const notice: Notice = { tone: 'done', ...more, id: ++lastId, text };
  const isOther = (other: Notice): boolean => notice.change === undefined || other.change !== notice.change;
  if (notice.undo !== undefined) steps = [...steps.filter(isOther).slice(1 - MOST_STEPS), notice];
  set([...notices.filter(isOther).slice(-2), notice]);
  leaveLater(notice.id);
}

/** A notice goes after a while, but never while somebody is at it. */
function leaveLater(id: number): void {
  setTimeout(() => (isHeld ? leaveLater(id) : dismiss(id)), SHOWN_MS);
}

function hold(isIt: boolean): void {
  isHeld = isIt;
}

function dismiss(id: number): void {
  // What had the pointer or the focus may be gone and says no more that it lost it.
  hold(false);
  set(notices.filter((notice) => notice.id !== id));
}

let toCome = 0;
let isUndoAsked = false;

/** Tells that a step is being saved whose notice comes when it is; the function that is answered says that it came, or will not. */
export function noticeToCome(): () => void {
  toCome += 1;
  return () => {
    toCome -= 1;
    if (toCome > 0 || !isUndoAsked) return;
    isUndoAsked = false;
    undoLast();
  };
}

/** Takes back the newest step that can be, also when its notice is gone; one that is still being saved as soon as it is. */
export function undoLast(): void {
  const step = steps.at(-1);
  if (toCome > 0) isUndoAsked = true;
  else if (step !== undefined) undoStep(step);
}

/** What was done here is not the next person's to undo. */
export function forgetSteps(): void {
  steps = [];
}

function undoStep(step: Notice): void {
  const isShown = notices.includes(step);
  steps = steps.filter((other) => other !== step);
  dismiss(step.id);
  step.undo?.().then(
    // Where nothing on the screen says any more what it was, that is said.
    (said) => notify(said ?? (isShown ? 'Undone.' : `Undone: ${step.text}`)),
    (error: unknown) => notify(troubleWords(error), { tone: 'trouble' }),
  );
}

const subscribe = (listener: () => void): (() => void) => {
  listeners.add(listener);
  return () => listeners.delete(listener);
};

const Region = styled.div`
  position: fixed;
  left: 20px;
  bottom: 18px;
  z-index: 40;
  display: flex;
  flex-direction: column;
  gap: 8px;
  ${phone} {
    left: 10px;
    right: 10px;
    bottom: 66px;
  }
`;
const Card = styled.div<{ $tone: Notice['tone'] }>`
  display: flex;
  align-items: center;
  gap: 12px;
  padding: 9px 10px 9px 14px;
  border-radius: 7px;
  background: var(--panel);
  color: var(--ink);
  border: 1px solid ${({ $tone }) => ($tone === 'trouble' ? 'var(--brick)' : 'var(--joint)')};
  box-shadow: 0 6px 22px rgb(10 30 30 / 18%);
  max-width: 60ch;
`;

/** Where notices appear; mounted once. */
export function NoticeRegion() {
  const shown = useSyncExternalStore(subscribe, () => notices);
  return (
    <Region
      data-screen-only
      role="status"
      aria-live="polite"
      aria-label="Messages"
      onPointerEnter={() => hold(true)}
      onPointerLeave={() => hold(false)}
      onFocus={() => hold(true)}
      onBlur={() => hold(false)}
    >
      {shown.map((notice) => (
        <Card key={notice.id} $tone={notice.tone}>
          <span>{notice.text}</span>
          {notice.undo === undefined ? null : (
            <Button kind="quiet" onPress={() => undoStep(notice)}>
              Undo
            </Button>
          )}
          <Button kind="quiet" aria-label="Close notice" onPress={() => dismiss(notice.id)}>
            ✕
          </Button>
        </Card>
      ))}
    </Region>
  );
}
