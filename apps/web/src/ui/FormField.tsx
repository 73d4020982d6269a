import { Controller, type Control, type FieldPath, type FieldValues } from 'react-hook-form';
import { Field, type FieldProps } from './Field.tsx';

interface FormFieldProps<Values extends FieldValues> extends Pick<FieldProps, 'label' | 'type' | 'autoComplete'> {
  readonly control: Control<Values>;
  readonly name: FieldPath<Values>;
}

/** A text field of a form: its value, its focus and its error belong to react-hook-form. */
export function FormField<Values extends FieldValues>({ control, name, ...field }: FormFieldProps<Values>) {
  return (
    <Controller
      control={control}
      name={name}
      render={({ field: { value, onChange, onBlur, ref }, fieldState }) => (
        <Field {...field} value={value as string} onChange={onChange} onBlur={onBlur} inputRef={ref} error={fieldState.error?.message} />
      )}
    />
  );
}
