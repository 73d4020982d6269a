import { Button as AriaButton, Dialog, DialogTrigger } from 'react-aria-components';
import styled from 'styled-components';
import { useHint } from '../../session/hints.ts';
import { Button } from '../../ui/Button.tsx';
import { PopoverPanel } from '../../ui/Field.tsx';
import { WORDS_EXPLAINED, type OwnWord } from './words-explained.tsx';

const Question = styled(AriaButton)`
  display: inline-grid;
  place-items: center;
  flex: none;
  width: 24px;
  height: 24px;
  padding: 0;
  border: 0;
  background: none;
  color: var(--ink-2);
  font: inherit;
  cursor: pointer;
  &::before {
    content: '?';
    display: grid;
    place-items: center;
    width: 16px;
    height: 16px;
    border: 1px solid var(--joint);
    border-radius: 50%;
    font-size: 11px;
    font-weight: 650;
    line-height: 1;
  }
  &[data-hovered]::before,
  &[data-focus-visible]::before {
    color: var(--petrol);
    border-color: var(--petrol);
  }
  @media print {
    display: none;
  }
`;
const Card = styled(Dialog)`
  width: min(300px, 90vw);
  padding: 10px 12px 12px;
  outline: none;
  h2 {
    font-size: 14px;
    margin-bottom: 4px;
  }
  p {
    color: var(--ink-2);
    margin-bottom: 8px;
  }
  svg {
    display: block;
    margin-bottom: 8px;
  }
  > span {
    display: flex;
    gap: 14px;
    margin-bottom: 10px;
  }
`;

/** A small question mark beside one of our own words, until the reader has opened it once. */
export function Explain({ word }: { readonly word: OwnWord }) {
  const { isOpen, close } = useHint(`word-${word}`);
  const { title, text, drawing } = WORDS_EXPLAINED[word];
  if (!isOpen) return null;
  return (
    <DialogTrigger>
      <Question aria-label={`What is meant by ${title.toLowerCase()}`} />
      <PopoverPanel $isWhole>
        <Card aria-label={title}>
          <h2>{title}</h2>
          <p>{text}</p>
          {drawing}
          <Button onPress={close}>Got it</Button>
        </Card>
      </PopoverPanel>
    </DialogTrigger>
  );
}
