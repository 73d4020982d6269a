import { troubleWords } from '../api/client.ts';
import { useState, type ReactNode } from 'react';
import { Dialog, DialogTrigger } from 'react-aria-components';
import { Button } from './Button.tsx';
import { PopoverPanel } from './Field.tsx';

interface SmallFormProps {
  /** What the button that sends it says. */
  readonly action: string;
  /** Whether all that is needed is there. */
  readonly isReady?: boolean;
  /** Does it; what is thrown is shown as a sentence in the form, which stays open. */
  readonly onSubmit: () => Promise<void>;
  /** The fields; the first shows the trouble there was. */
  readonly children: (trouble: string | undefined) => ReactNode;
}

/** A form of a few fields: sent once at a time, what was refused is said beside what was typed. */
export function SmallForm({ action, isReady = true, onSubmit, children }: SmallFormProps) {
  const [trouble, setTrouble] = useState<string>();
  const [isBusy, setBusy] = useState(false);
  const send = async (): Promise<void> => {
    setBusy(true);
    setTrouble(undefined);
    await onSubmit().catch((error: unknown) => setTrouble(troubleWords(error)));
    setBusy(false);
  };
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        if (isReady && !isBusy) void send();
      }}
    >
      {children(trouble)}
      <Button kind="primary" type="submit" isDisabled={!isReady || isBusy}>
        {action}
      </Button>
    </form>
  );
}

interface FormButtonProps {
  /** The button that opens it. */
  readonly button: ReactNode;
  readonly label: string;
  readonly width?: number;
  readonly children: (close: () => void) => ReactNode;
}

/** A button with a small form behind it. */
export function FormButton({ button, label, width = 290, children }: FormButtonProps) {
  return (
    <DialogTrigger>
      {button}
      <PopoverPanel style={{ maxHeight: 'none' }}>
        <Dialog aria-label={label} style={{ outline: 'none', padding: 10, width }}>
          {({ close }) => children(close)}
        </Dialog>
      </PopoverPanel>
    </DialogTrigger>
  );
}
