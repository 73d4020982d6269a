import { useState } from 'react';
import styled from 'styled-components';
import { Button } from '../../ui/Button.tsx';
import { Field } from '../../ui/Field.tsx';

const LineForm = styled.form`
  display: flex;
  gap: 6px;
  max-width: 460px;
`;

const Grow = styled.div`
  flex: 1;
`;

interface OneLineProps {
  readonly label: string;
  readonly button: string;
  readonly onAdd: (text: string) => void;
}

/** One more of something, by name: a button that becomes a field, and stays one while more are typed. */
export function OneLine({ label, button, onAdd }: OneLineProps) {
  const [text, setText] = useState<string | null>(null);
  if (text === null) {
    return (
      <Button isFlush kind="quiet" aria-label={`${button}: ${label}`} onPress={() => setText('')}>
        {button}
      </Button>
    );
  }
  return (
    <LineForm
      onSubmit={(event) => {
        event.preventDefault();
        if (text.trim() === '') return;
        onAdd(text.trim());
        setText('');
      }}
    >
      <Grow>
        <Field
          label=""
          aria-label={label}
          placeholder={label}
          isTight
          autoFocus
          value={text}
          onChange={setText}
          onKeyDown={(event) => {
            if (event.key === 'Escape') setText(null);
          }}
        />
      </Grow>
      <Button type="submit" isDisabled={text.trim() === ''}>
        Add
      </Button>
      <Button kind="quiet" onPress={() => setText(null)}>
        Done
      </Button>
    </LineForm>
  );
}
