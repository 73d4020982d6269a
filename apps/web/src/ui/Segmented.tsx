import { ToggleButton, ToggleButtonGroup } from 'react-aria-components';
import styled from 'styled-components';

const Group = styled(ToggleButtonGroup)`
  display: inline-flex;
  border: 1px solid var(--joint);
  border-radius: 5px;
  overflow: hidden;
`;
const Part = styled(ToggleButton)`
  border: 0;
  border-right: 1px solid var(--line);
  background: var(--panel);
  min-height: 28px;
  padding: 3px 11px;
  font-weight: 600;
  font-size: 12.5px;
  cursor: pointer;
  &:last-child {
    border-right: 0;
  }
  &[data-selected] {
    background: var(--ink);
    color: var(--panel);
  }
  &[data-focus-visible] {
    outline-offset: -3px;
  }
`;

export interface SegmentedProps<Id extends string> {
  readonly label: string;
  readonly parts: readonly { readonly id: Id; readonly name: string }[];
  readonly value: Id;
  readonly onChange: (id: Id) => void;
}

/** One of a few, always visible. */
export function Segmented<Id extends string>({ label, parts, value, onChange }: SegmentedProps<Id>) {
  const choose = (keys: Set<string | number>): void => {
    const [key] = keys;
    if (key !== undefined) onChange(key as Id);
  };
  return (
    <Group aria-label={label} selectionMode="single" disallowEmptySelection selectedKeys={[value]} onSelectionChange={choose}>
      {parts.map((part) => (
        <Part key={part.id} id={part.id}>
          {part.name}
        </Part>
      ))}
    </Group>
  );
}
