import { useState } from 'react';
import { Field } from '../Field.tsx';

interface OneMoreProps {
  readonly label: string;
  /** Adds it; what was refused stays in the field. */
  readonly onAdd: (text: string) => void | Promise<{ readonly isDone: boolean }>;
}

/** One more of a list, by its name: a field that adds on Enter and is ready for the next. */
export function OneMore({ label, onAdd }: OneMoreProps) {
  const [text, setText] = useState('');
  const add = async (name: string): Promise<void> => {
    const added = await onAdd(name);
    // Whoever types on while it is being saved is not interrupted.
    if (added?.isDone !== false) setText((now) => (now === text ? '' : now));
  };
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        if (text.trim() !== '') void add(text.trim());
      }}
    >
      <Field label="" aria-label={label} placeholder={label} isTight value={text} onChange={setText} />
    </form>
  );
}
