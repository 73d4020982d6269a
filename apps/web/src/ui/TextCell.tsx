import { useId, useState } from 'react';
import styled from 'styled-components';

const Input = styled.input<{ $isTitle: boolean; $isFitted: boolean }>`
  width: 100%;
  min-width: 0;
  padding: 2px 5px;
  margin: 0 -6px;
  border: 1px solid transparent;
  border-radius: 4px;
  background: transparent;
  text-overflow: ellipsis;
  ${({ $isTitle }) => ($isTitle ? "font: 650 19px/1.25 'Bricolage Grotesque Variable', sans-serif;" : '')}
  ${({ $isFitted }) => ($isFitted ? 'flex: none; width: auto; min-width: 8ch; margin: 0 0 0 -6px; font: inherit; field-sizing: content;' : '')}
  &:hover {
    border-color: var(--line);
  }
  &:focus {
    background: var(--panel);
    border-color: var(--petrol);
    outline: none;
  }
  &[aria-invalid='true'] {
    border-color: var(--brick);
  }
`;

const Faulty = styled.span`
  position: relative;
  display: block;
`;
/** Below the cell, over what stands there: nothing moves. */
const Fault = styled.span`
  position: absolute;
  z-index: 5;
  top: 100%;
  right: -6px;
  width: max-content;
  max-width: 250px;
  padding: 5px 9px;
  border: 1px solid var(--brick);
  border-radius: 5px;
  background: var(--panel);
  color: var(--brick);
  font-size: 12px;
  font-weight: 400;
  text-align: left;
`;

interface TextCellProps {
  readonly label: string;
  readonly value: string;
  /** Given what was typed; false, or a sentence that says why, when it cannot be read: then it stays typed and is marked. */
  readonly onSave: (text: string) => boolean | string | void;
  readonly placeholder?: string;
  /** It heads a sheet. */
  readonly isTitle?: boolean;
  /** It stands within a line: as wide as what is in it, in the type around it. */
  readonly isFitted?: boolean;
  readonly className?: string;
  readonly autoFocus?: boolean;
}

/** A value that is a field where it is read: saved when it is left, put back by Escape. */
export function TextCell({ label, value, onSave, isTitle = false, isFitted = false, ...more }: TextCellProps) {
  const [typed, setTyped] = useState<string | null>(null);
  const [wrong, setWrong] = useState<boolean | string>(false);
  const fault = useId();
  const save = (): void => {
    if (typed === null || typed === value) return setTyped(null);
    const read = onSave(typed);
    const isRead = read !== false && typeof read !== 'string';
    setWrong(isRead ? false : typeof read === 'string' ? read : true);
    if (isRead) setTyped(null);
  };
  const input = (
    <Input
      {...more}
      $isTitle={isTitle}
      $isFitted={isFitted}
      aria-label={label}
      aria-invalid={wrong !== false}
      aria-describedby={typeof wrong === 'string' ? fault : undefined}
      value={typed ?? value}
      onChange={(event) => setTyped(event.target.value)}
      onBlur={save}
      onKeyDown={(event) => {
        if (event.key === 'Enter') event.currentTarget.blur();
        if (event.key !== 'Escape' || typed === null) return;
        event.preventDefault();
        event.stopPropagation();
        setTyped(null);
        setWrong(false);
      }}
    />
  );
  if (typeof wrong !== 'string') return input;
  return (
    <Faulty>
      {input}
      <Fault id={fault} role="alert">
        {wrong}
      </Fault>
    </Faulty>
  );
}
