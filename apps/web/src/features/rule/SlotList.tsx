import { hasEveryWord } from '@crew/contract';
import { useState } from 'react';
import { Autocomplete, Input, ListBox, TextField } from 'react-aria-components';
import styled from 'styled-components';
import { Button } from '../../ui/Button.tsx';
import { Option } from '../../ui/Field.tsx';
import type { SlotChoice } from './slot-choices.ts';

const Find = styled(Input)`
  width: 100%;
  min-height: 30px;
  padding: 4px 8px;
  margin-bottom: 4px;
  border: 1px solid var(--joint);
  border-radius: 5px;
  background: var(--panel);
`;
const List = styled(ListBox<SlotChoice>)`
  width: 320px;
  max-width: 88vw;
  max-height: 280px;
  overflow: auto;
  outline: none;
`;
const None = styled.p`
  padding: 6px 9px;
  color: var(--ink-2);
`;

const MOST_SHOWN = 60;

interface SlotListProps {
  readonly label: string;
  readonly choices: readonly SlotChoice[];
  readonly chosen: string;
  readonly onChoose: (choice: SlotChoice) => void;
  /** Takes what was typed when nothing of the list is it. */
  readonly onType?: (text: string) => void;
}

/** What can be put into a slot: found by typing, chosen by arrows and Enter. */
export function SlotList({ label, choices, chosen, onChoose, onType }: SlotListProps) {
  const [typed, setTyped] = useState('');
  const found = choices.filter(({ name }) => hasEveryWord(name, typed)).slice(0, MOST_SHOWN);
  const choose = (id: string): void => {
    const choice = choices.find((one) => one.id === id);
    if (choice !== undefined) onChoose(choice);
  };
  return (
    <>
      <Autocomplete inputValue={typed} onInputChange={setTyped}>
        <TextField aria-label={`Find: ${label}`} autoFocus>
          <Find placeholder="Type to find" />
        </TextField>
        <List
          aria-label={label}
          items={found}
          selectionMode="single"
          selectedKeys={[chosen]}
          // Choosing what is chosen already leaves it, and closes.
          onSelectionChange={(keys) => choose(keys === 'all' || keys.size === 0 ? chosen : String([...keys][0]))}
          renderEmptyState={() => <None>Nothing matches.</None>}
        >
          {(choice) => (
            <Option id={choice.id} textValue={choice.name}>
              {choice.name}
            </Option>
          )}
        </List>
      </Autocomplete>
      {onType === undefined || typed.trim() === '' || found.some(({ name }) => name === typed.trim()) ? null : (
        <Button kind="quiet" onPress={() => onType(typed.trim())}>
          Use “{typed.trim()}”
        </Button>
      )}
    </>
  );
}
