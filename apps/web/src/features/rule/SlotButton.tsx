import type { ReactNode } from 'react';
import { Button, Dialog, DialogTrigger } from 'react-aria-components';
import styled from 'styled-components';
import { FilledText } from './FilledText.tsx';
import { PopoverPanel } from '../../ui/Field.tsx';

/** A part of a sentence that can be chosen: it reads as text, and is underlined. */
const Slot = styled(Button)<{ $isOpen: boolean; $isPlain: boolean }>`
  display: inline;
  min-height: 24px;
  padding: 2px 3px;
  margin: 0 -1px;
  border: 0;
  border-bottom: 2px solid ${({ $isOpen, $isPlain }) => ($isPlain ? 'transparent' : $isOpen ? 'var(--amber)' : 'var(--petrol-mid)')};
  border-radius: 3px 3px 0 0;
  background: transparent;
  color: ${({ $isOpen }) => ($isOpen ? 'var(--amber)' : 'var(--petrol)')};
  font-weight: 600;
  text-align: start;
  cursor: pointer;
  &[data-hovered],
  &[aria-expanded='true'] {
    background: var(--petrol-soft);
  }
`;
const Inside = styled(Dialog)`
  outline: none;
`;

interface SlotButtonProps {
  /** What it says now. */
  readonly words: string;
  /** Its name for screen readers. */
  readonly label: string;
  /** Something has to be chosen still. */
  readonly isOpen?: boolean;
  /** It stands outside the sentence, and adds to it. */
  readonly isPlain?: boolean;
  /** Has the focus once it is there. */
  readonly hasFocus?: boolean;
  readonly children: (close: () => void) => ReactNode;
}

/** A slot of a sentence, with what chooses its value in a panel at its place. */
export function SlotButton({ words, label, isOpen = false, isPlain = false, hasFocus = false, children }: SlotButtonProps) {
  return (
    <DialogTrigger>
      <Slot $isOpen={isOpen} $isPlain={isPlain} aria-label={`${label}: ${words}`} autoFocus={hasFocus}>
        <FilledText text={words} />
      </Slot>
      <PopoverPanel placement="bottom start" $isWhole>
        <Inside aria-label={label}>{({ close }) => children(close)}</Inside>
      </PopoverPanel>
    </DialogTrigger>
  );
}
