import type { ReactNode } from 'react';
import { Dialog, DialogTrigger } from 'react-aria-components';
import styled from 'styled-components';
import { Button } from '../Button.tsx';
import { PopoverPanel } from '../Field.tsx';
import { Stack, Trouble } from '../text.tsx';
import type { InputForm } from './use-input-form.ts';

const Foot = styled.div`
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 8px;
  margin-top: 8px;
`;

interface SmallFormProps {
  readonly form: Pick<InputForm<unknown>, 'submit' | 'isSending' | 'trouble'>;
  /** What the button that sends it says. */
  readonly action: string;
  /** Leaves the form; left out where it closes by itself. */
  readonly onCancel?: () => void;
  readonly label?: string;
  /** It cannot be sent for now; the form says why. */
  readonly isBlocked?: boolean;
  /** The room between its fields, in pixels; fields that keep a line for their error need none. */
  readonly gap?: number;
  readonly children: ReactNode;
}

/** A form of a few fields: sent once at a time; what was refused is said beside what was typed. */
export function SmallForm({ form, action, onCancel, label, gap = 0, isBlocked = false, children }: SmallFormProps) {
  return (
    <form aria-label={label} aria-busy={form.isSending} onSubmit={form.submit} noValidate>
      <Stack gap={gap}>{children}</Stack>
      <Trouble words={form.trouble} />
      <Foot>
        <Button kind="primary" type="submit" isDisabled={isBlocked}>
          {action}
        </Button>
        {onCancel === undefined ? null : (
          <Button kind="quiet" onPress={onCancel}>
            Cancel
          </Button>
        )}
      </Foot>
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

/** What opens over a button: a form of this width in pixels, or what brings its own. */
export const FormDialog = styled(Dialog)<{ $width?: number }>`
  outline: none;
  ${({ $width }) => ($width === undefined ? '' : `padding: 10px; width: ${$width}px;`)}
`;

/** A button with a small form behind it. */
export function FormButton({ button, label, width = 290, children }: FormButtonProps) {
  return (
    <DialogTrigger>
      {button}
      <PopoverPanel $isWhole>
        <FormDialog aria-label={label} $width={width}>
          {({ close }) => children(close)}
        </FormDialog>
      </PopoverPanel>
    </DialogTrigger>
  );
}
