import type { ReactNode } from 'react';
import {
  Button as AriaButton,
  FieldError,
  Input,
  Label,
  ListBox,
  ListBoxItem,
  Popover,
  Select as AriaSelect,
  SelectValue,
  TextArea,
  TextField as AriaTextField,
  type TextFieldProps,
} from 'react-aria-components';
import styled from 'styled-components';

const Column = styled.div`
  display: flex;
  flex-direction: column;
  gap: 3px;
  min-width: 0;
`;
const StyledLabel = styled(Label)`
  font-size: 12px;
  font-weight: 600;
  color: var(--ink-2);
`;
/** Keeps its height when empty, so that a message never moves what is below it. */
const ErrorLine = styled(FieldError)`
  font-size: 12px;
  color: var(--brick);
`;
const ErrorPlace = styled.div`
  min-height: 17px;
`;
const box = `
  width: 100%; min-height: 32px; padding: 5px 9px; border: 1px solid var(--joint); border-radius: 5px; background: var(--panel); color: var(--ink);
`;
const InputPlace = styled.div`
  position: relative;
  > button {
    position: absolute;
    right: 3px;
    top: 3px;
    min-height: 26px;
    padding: 0 8px;
  }
  > input:not(:last-child) {
    padding-right: 34px;
  }
`;
const StyledInput = styled(Input)`
  ${box}
  &[data-invalid] {
    border-color: var(--brick);
  }
`;
const StyledArea = styled(TextArea)`
  ${box}
  min-height: 74px;
  resize: vertical;
  &[data-invalid] {
    border-color: var(--brick);
  }
`;

export interface FieldProps extends Omit<TextFieldProps, 'children'> {
  readonly label: string;
  readonly error?: string | undefined;
  readonly isLong?: boolean;
  /** Of a long one: how many lines it shows at first. */
  readonly rows?: number;
  /** Leaves out the room for an error: for fields that cannot be wrong or say so elsewhere. */
  readonly isTight?: boolean;
  readonly placeholder?: string;
  /** Within the field, at its end. */
  readonly button?: ReactNode;
  /** Where a form finds it, to put the cursor in it. */
  readonly inputRef?: (element: HTMLElement | null) => void;
}

/** One labelled field with room for its error. For a day there is `DayField`. */
export function Field({ label, error, isLong, rows, isTight = false, placeholder, inputRef, button, ...props }: FieldProps) {
  return (
    <AriaTextField {...props} isInvalid={error !== undefined} validationBehavior="aria">
      <Column>
        {label === '' ? null : <StyledLabel>{label}</StyledLabel>}
        {isLong ? (
          <StyledArea placeholder={placeholder} ref={inputRef} {...(rows === undefined ? {} : { rows })} />
        ) : (
          <InputPlace>
            <StyledInput placeholder={placeholder} ref={inputRef} />
            {button}
          </InputPlace>
        )}
        {isTight && error === undefined ? null : (
          <ErrorPlace>
            <ErrorLine>{error}</ErrorLine>
          </ErrorPlace>
        )}
      </Column>
    </AriaTextField>
  );
}

const Trigger = styled(AriaButton)`
  ${box}
  display: flex;
  justify-content: space-between;
  gap: 8px;
  align-items: center;
  text-align: left;
  cursor: pointer;
`;
const Chosen = styled(SelectValue)`
  min-width: 0;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  &[data-placeholder] {
    color: var(--ink-3);
  }
`;
export const PopoverPanel = styled(Popover)<{ $isWhole?: boolean }>`
  background: var(--panel);
  border: 1px solid var(--joint);
  border-radius: 7px;
  box-shadow: 0 6px 22px rgb(10 30 30 / 18%);
  padding: 5px;
  min-width: var(--trigger-width);
  max-width: min(420px, 94vw);
  ${({ $isWhole = false }) => ($isWhole ? '' : 'max-height: 340px;')}
  overflow: auto;
  > [role='listbox'] {
    outline: none;
  }
`;
export const Option = styled(ListBoxItem)`
  padding: 6px 9px;
  border-radius: 5px;
  cursor: pointer;
  outline: none;
  &[data-focused] {
    background: var(--petrol-soft);
  }
  &[data-selected] {
    font-weight: 600;
  }
`;
export const Detail = styled.span`
  display: block;
  font-size: 12px;
  font-weight: 400;
  color: var(--ink-2);
`;

export interface Choice<Id extends string = string> {
  readonly id: Id;
  readonly name: string;
  readonly detail?: ReactNode;
}

export interface ChooseProps<Id extends string> {
  readonly label: string;
  /** Undefined while they are not known yet: then there is nothing to open. */
  readonly choices: readonly Choice<Id>[] | undefined;
  readonly value: Id | null;
  readonly onChange: (id: Id) => void;
  readonly error?: string | undefined;
  readonly placeholder?: string;
  readonly isLabelHidden?: boolean;
  /** Leaves out the room for an error. */
  readonly isTight?: boolean;
  /** Where a form finds it, to put the cursor in it. */
  readonly inputRef?: (element: HTMLElement | null) => void;
}

const Nothing = styled.div`
  padding: 6px 9px;
  color: var(--ink-2);
`;

/** Choosing one of a list; one that is empty opens and says so. */
export function Choose<Id extends string>({
  label,
  choices,
  value,
  onChange,
  error,
  placeholder = 'Choose',
  isLabelHidden = false,
  isTight = false,
  inputRef,
}: ChooseProps<Id>) {
  return (
    <AriaSelect
      aria-label={isLabelHidden ? label : undefined}
      selectedKey={value}
      onSelectionChange={(key) => onChange(String(key) as Id)}
      isInvalid={error !== undefined}
      validationBehavior="aria"
      placeholder={choices === undefined ? 'Loading …' : placeholder}
      isDisabled={choices === undefined}
      allowsEmptyCollection
    >
      <Column>
        {isLabelHidden ? null : <StyledLabel>{label}</StyledLabel>}
        <Trigger ref={inputRef}>
          <Chosen>{({ selectedText, defaultChildren }) => selectedText || defaultChildren}</Chosen>
          <span aria-hidden="true">▾</span>
        </Trigger>
        {isLabelHidden || (isTight && error === undefined) ? null : (
          <ErrorPlace>
            <ErrorLine>{error}</ErrorLine>
          </ErrorPlace>
        )}
      </Column>
      <PopoverPanel>
        <ListBox items={choices ?? []} renderEmptyState={() => <Nothing>There are no options.</Nothing>}>
          {(choice) => (
            <Option id={choice.id} textValue={choice.name}>
              {choice.name}
              {choice.detail === undefined ? null : <Detail>{choice.detail}</Detail>}
            </Option>
          )}
        </ListBox>
      </PopoverPanel>
    </AriaSelect>
  );
}
