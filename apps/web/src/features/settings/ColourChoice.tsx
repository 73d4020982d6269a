import { Radio, RadioGroup, Label } from 'react-aria-components';
import styled from 'styled-components';

/** Colours that carry white text at 4.5 : 1. */
const COLOURS = [
  { id: '#0b5d57', name: 'Petrol' },
  { id: '#2f5f8f', name: 'Blue' },
  { id: '#4a3f90', name: 'Violet' },
  { id: '#8a3357', name: 'Plum' },
  { id: '#a03a1c', name: 'Brick' },
  { id: '#7a5316', name: 'Ochre' },
  { id: '#46672a', name: 'Moss' },
  { id: '#3a474a', name: 'Slate' },
] as const;

const Row = styled(RadioGroup)`
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  margin: 2px 0 12px;
  > :first-child {
    flex-basis: 100%;
    font-size: 12px;
    font-weight: 600;
    color: var(--ink-2);
  }
`;
const Swatch = styled(Radio)<{ $colour: string }>`
  width: 34px;
  height: 26px;
  border-radius: 5px;
  background: ${({ $colour }) => $colour};
  cursor: pointer;
  &[data-selected] {
    outline: 2px solid var(--ink);
    outline-offset: 2px;
  }
  &[data-focus-visible] {
    outline: 2px solid var(--ember);
    outline-offset: 2px;
  }
`;

/** The agency's colour, for what clients see. */
export function ColourChoice({ value, onChange }: { readonly value: string; readonly onChange: (colour: string) => void }) {
  return (
    <Row value={value} onChange={onChange} orientation="horizontal">
      <Label>Colour on client pages and in mails</Label>
      {COLOURS.map(({ id, name }) => (
        <Swatch key={id} value={id} $colour={id} aria-label={name} />
      ))}
    </Row>
  );
}
