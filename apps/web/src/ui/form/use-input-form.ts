import { classValidatorResolver } from '@hookform/resolvers/class-validator';
import { useRef, useState, type FormEvent } from 'react';
import {
  useForm,
  useWatch,
  type DefaultValues,
  type FieldErrors,
  type FieldValues,
  type Path,
  type PathValue,
  type Resolver,
} from 'react-hook-form';
import { ApiError, troubleWords } from '../../api/client.ts';
import { Unreadable } from './typed.ts';

/** An input as it is read from what was typed: a field may be missing still, or not be readable. */
export type Reading<Input> = { readonly [Field in keyof Input]?: Input[Field] | Unreadable | undefined };

interface InputFormOptions<Typed extends FieldValues, Input extends object> {
  /** The contract's input with its rules: they are the form's, too. */
  readonly rules: new () => Input;
  /** What stands in the fields at first. Fields have the names of the input's, where they are its. */
  readonly typed: Typed;
  /** The input, read from what was typed. */
  readonly input: (typed: Typed) => Reading<NoInfer<Input>>;
  /** Sends it. What is thrown stands at the field it names, or at the foot of the form. */
  readonly send: (input: NoInfer<Input>, typed: Typed) => Promise<unknown>;
}

/** What a field of the kit needs of its form. */
export interface Bound<Value> {
  readonly name: string;
  readonly value: Value;
  readonly onChange: (value: Value) => void;
  readonly error: string | undefined;
  readonly inputRef: (element: HTMLElement | null) => void;
}

export interface InputForm<Typed> {
  readonly values: Typed;
  /** A field: its value, its change, what is wrong with it. */
  readonly bind: <Name extends keyof Typed & string>(name: Name) => Bound<Typed[Name]>;
  /** A box to tick. */
  readonly bindTick: <Name extends keyof Typed & string>(
    name: Name,
  ) => { readonly isSelected: boolean; readonly onChange: (isSelected: boolean) => void };
  readonly set: (change: Partial<Typed>) => void;
  /** Sends it, unless it is being sent. */
  readonly submit: (event?: FormEvent) => void;
  readonly isSending: boolean;
  /** Whether something stands in the fields that did not at first. */
  readonly isDirty: boolean;
  /** What went wrong and belongs to no field. */
  readonly trouble: string | undefined;
  /** Empties it, or begins it anew from what is given. */
  readonly reset: (typed?: Typed) => void;
}

/**
 * A form over one input of the contract. The rules of the contract are looked at before anything
 * is sent, each fault stands at its field until that is changed, and what is typed is kept.
 */
export function useInputForm<Typed extends FieldValues, Input extends object>(options: InputFormOptions<Typed, Input>): InputForm<Typed> {
  const { typed, input, send } = options;
  const form = useForm<Typed>({ resolver: resolverOf(options), defaultValues: typed as DefaultValues<Typed>, shouldFocusError: false });
  const { errors, isSubmitting, isSubmitted, isDirty } = form.formState;
  const values = useWatch({ control: form.control }) as Typed;
  const [trouble, setTrouble] = useState<string>();
  const elements = useRef(new Map<string, HTMLElement>());
  const isUnderWay = useRef(false);

  const change = (name: string, value: unknown): void =>
    form.setValue(name as Path<Typed>, value as PathValue<Typed, Path<Typed>>, { shouldDirty: true, shouldValidate: isSubmitted });
  /** Shows faults where they can be put right; what has no field is said at the foot. */
  const show = (faults: ReadonlyMap<string, string>): void => {
    for (const [name, message] of faults) {
      if (name in values) form.setError(name as Path<Typed>, { message });
      else setTrouble(message);
    }
    firstOf([...faults.keys()].flatMap((name) => elements.current.get(name) ?? []))?.focus();
  };
  const sendTyped = async (sent: Typed): Promise<void> => {
    setTrouble(undefined);
    try {
      await send(input(sent) as Input, sent);
    } catch (error) {
      const field = error instanceof ApiError ? (error.field ?? '') : '';
      show(new Map([[field, troubleWords(error)]]));
    }
  };
  const refuse = (faults: object): void => {
    setTrouble(undefined);
    show(faultsOf(faults));
  };
  // The button that sends it is not disabled meanwhile: it would lose the focus, and Escape would close what lies below.
  const submit = (event?: FormEvent): void => {
    event?.preventDefault();
    if (isUnderWay.current) return;
    isUnderWay.current = true;
    void form
      .handleSubmit(sendTyped, refuse)()
      .finally(() => (isUnderWay.current = false));
  };
  return {
    values,
    bind: (name) => ({
      name,
      value: values[name],
      onChange: (value) => change(name, value),
      error: messageIn(errors[name]),
      inputRef: (element) => void (element === null ? elements.current.delete(name) : elements.current.set(name, element)),
    }),
    bindTick: (name) => ({ isSelected: values[name] === true, onChange: (isSelected) => change(name, isSelected) }),
    set: (changes) => Object.entries(changes).forEach(([name, value]) => change(name, value)),
    submit,
    isSending: isSubmitting,
    isDirty,
    trouble,
    reset: (next = typed) => form.reset(next),
  };
}

/** The contract's rules over what was typed; what could not be read has its own words. */
function resolverOf<Typed extends FieldValues, Input extends object>({
  rules,
  input,
}: Pick<InputFormOptions<Typed, Input>, 'rules' | 'input'>): Resolver<Typed> {
  const byRules = classValidatorResolver(rules);
  return async (values) => {
    const reading = Object.entries(input(values));
    const plain = Object.fromEntries(reading.filter(([, value]) => !(value instanceof Unreadable)));
    const { errors } = await byRules(plain as Input, undefined, { fields: {}, shouldUseNativeValidation: false });
    const faults = new Map(faultsOf(errors));
    const unread = reading.flatMap(([name, value]) => (value instanceof Unreadable ? [[name, value] as const] : []));
    for (const [name, { message }] of unread) faults.set(name, message);
    for (const [name, { isOfAnother }] of unread) if (isOfAnother && faults.size > 1) faults.delete(name);
    if (faults.size === 0) return { values, errors: {} };
    const shown = Object.fromEntries([...faults].map(([name, message]) => [name, { type: 'rule', message }]));
    return { values: {}, errors: shown as FieldErrors<Typed> };
  };
}

/** The one that stands before all others on the page. */
const firstOf = ([first, ...rest]: readonly HTMLElement[]): HTMLElement | undefined =>
  rest.reduce(
    (before, other) =>
      before !== undefined && (before.compareDocumentPosition(other) & Node.DOCUMENT_POSITION_PRECEDING) !== 0 ? other : before,
    first,
  );

/** The first message of each field that is at fault. */
const faultsOf = (errors: object): ReadonlyMap<string, string> =>
  new Map(
    Object.entries(errors)
      .flatMap(([name, error]) => [[name, messageIn(error)] as const])
      .filter((fault): fault is [string, string] => fault[1] !== undefined),
  );

/** A part of a list or an object may be what is wrong. */
function messageIn(error: unknown): string | undefined {
  if (typeof error !== 'object' || error === null) return undefined;
  const { message } = error as { message?: unknown };
  if (typeof message === 'string') return message;
  return Object.values(error)
    .map(messageIn)
    .find((found) => found !== undefined);
}
