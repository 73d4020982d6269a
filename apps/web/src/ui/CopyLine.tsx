import { useState } from 'react';
import styled from 'styled-components';
import { Button } from './Button.tsx';

const Line = styled.div`
  display: flex;
  gap: 6px;
  align-items: center;
  margin: 6px 0 10px;
  input {
    flex: 1;
    min-width: 0;
    padding: 5px 8px;
    border: 1px solid var(--line);
    border-radius: 5px;
    background: var(--sunk);
    color: var(--ink);
    font: inherit;
  }
`;

/** A text to copy, such as a link; it can also be chosen by hand where the browser does not allow copying. */
export function CopyLine({ label, text }: { readonly label: string; readonly text: string }) {
  const [isCopied, setCopied] = useState(false);
  const copy = (): void => {
    navigator.clipboard?.writeText(text).then(
      () => setCopied(true),
      () => setCopied(false),
    );
  };
  return (
    <Line>
      <input aria-label={label} readOnly value={text} onFocus={(event) => event.target.select()} />
      <Button onPress={copy}>{isCopied ? 'Copied' : 'Copy'}</Button>
    </Line>
  );
}
