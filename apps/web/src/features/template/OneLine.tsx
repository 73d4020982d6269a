import { useState } from 'react';
import { Button } from '../../ui/Button.tsx';
import { Field } from '../../ui/Field.tsx';

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
      <Button kind="quiet" style={{ paddingLeft: 0 }} aria-label={`${button}: ${label}`} onPress={() => setText('')}>
        {button}
      </Button>
    );
  }
  return (
    <form
      style={{ display: 'flex', gap: 6, maxWidth: 460 }}
      onSubmit={(event) => {
        event.preventDefault();
        if (text.trim() === '') return;
        onAdd(text.trim());
        setText('');
      }}
    >
      <div style={{ flex: 1 }}>
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
      </div>
      <Button type="submit" isDisabled={text.trim() === ''}>
        Add
      </Button>
      <Button kind="quiet" onPress={() => setText(null)}>
        Done
      </Button>
    </form>
  );
}
