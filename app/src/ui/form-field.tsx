import type { ComponentProps, ComponentType } from 'react';
import { useController, type Control, type FieldPath, type FieldValues } from 'react-hook-form';
import { Choice, Field, LongField } from './field';
import type { PickerProps } from './picker-props';

type Kept = 'value' | 'onChange' | 'onBlur' | 'error' | 'name' | 'ref' | 'control';

/** What a field of a form is given: the form's control, the field's name there, and how it looks. */
type InForm<F extends FieldValues, P> = Omit<P, Kept> & { control: Control<F>; name: FieldPath<F> };

/** A text field of a form, with the error its check has found. */
export function FormField<F extends FieldValues>(props: InForm<F, ComponentProps<typeof Field>>) {
  const { control, name, ...field } = props;
  const { field: bound, fieldState } = useController({ control, name });
  return <Field {...field} error={fieldState.error?.message} {...bound} />;
}

/** A text field of several lines in a form. */
export function FormLongField<F extends FieldValues>(props: InForm<F, ComponentProps<typeof LongField>>) {
  const { control, name, ...field } = props;
  const { field: bound, fieldState } = useController({ control, name });
  return <LongField {...field} error={fieldState.error?.message} {...bound} />;
}

/** A choice of a form. */
export function FormChoice<F extends FieldValues>(props: InForm<F, ComponentProps<typeof Choice>>) {
  const { control, name, ...field } = props;
  const { field: bound, fieldState } = useController({ control, name });
  return <Choice {...field} error={fieldState.error?.message} {...bound} />;
}

/** A day, a time of day, a moment or a time zone in a form: which of them is `as`. */
export function FormPicker<F extends FieldValues>({
  as: Picker,
  control,
  name,
  ...field
}: InForm<F, Omit<PickerProps, 'onLeave'>> & { as: ComponentType<PickerProps> }) {
  const { field: bound, fieldState } = useController({ control, name });
  return (
    <Picker
      {...field}
      error={fieldState.error?.message}
      value={bound.value}
      onChange={bound.onChange}
      onLeave={bound.onBlur}
    />
  );
}
