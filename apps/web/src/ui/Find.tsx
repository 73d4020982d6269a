import { hasEveryWord } from '@crew/contract';
import type { ReactNode } from 'react';
import { ComboBox, Input, Label, ListBox } from 'react-aria-components';
import styled from 'styled-components';
import { Detail, Option, PopoverPanel } from './Field.tsx';
import { hiddenText } from './tokens.ts';

const Name = styled(Label)<{ $isHidden: boolean }>`
  color: var(--ink-2);
  font-size: 12px;
  font-weight: 600;
  ${({ $isHidden }) => ($isHidden ? hiddenText : '')}
`;

const Box = styled(Input)`
  width: 100%;
  min-height: 32px;
  padding: 5px 9px;
  border: 1px solid var(--joint);
  border-radius: 5px;
  background: var(--panel);
`;

const NoneFound = styled.p`
  padding: 6px 9px;
  color: var(--ink-2);
  font-size: 12.5px;
`;

interface Found {
  readonly id: string;
  readonly name: string;
  readonly detail?: ReactNode;
  /** What it is found by; its name when left out. */
  readonly words?: string;
}

interface FindProps {
  readonly label: string;
  readonly isLabelHidden?: boolean;
  readonly placeholder?: string;
  readonly choices: readonly Found[];
  readonly onChoose: (id: string | null) => void;
  /** Said where nothing has the words. */
  readonly none: string;
  readonly autoFocus?: boolean;
}

/** Choosing one of many by any of its words, in any order. */
export function Find({ label, isLabelHidden = false, placeholder, choices, onChoose, none, autoFocus = false }: FindProps) {
  return (
    <ComboBox
      menuTrigger="focus"
      allowsEmptyCollection
      defaultItems={choices}
      onSelectionChange={(key) => onChoose(key === null ? null : String(key))}
      defaultFilter={hasEveryWord}
    >
      <Name $isHidden={isLabelHidden}>{label}</Name>
      <Box autoFocus={autoFocus} placeholder={placeholder} />
      <PopoverPanel>
        <ListBox renderEmptyState={() => <NoneFound>{none}</NoneFound>}>
          {(choice: Found) => (
            <Option id={choice.id} textValue={choice.words ?? choice.name}>
              {choice.name}
              {choice.detail === undefined ? null : <Detail>{choice.detail}</Detail>}
            </Option>
          )}
        </ListBox>
      </PopoverPanel>
    </ComboBox>
  );
}
