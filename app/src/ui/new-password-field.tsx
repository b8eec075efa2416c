import { Field } from './field';

/** What helps to choose a password. */
export const PASSWORD_HINT = 'Ten characters or more. Three or four unrelated words work well.';

interface Props {
  value: string;
  error: string;
  onChange(text: string): void;
  onEnter?: () => void;
}

/** The field of a password that is to be. */
export function NewPasswordField({ value, error, onChange, onEnter }: Props) {
  return (
    <Field
      label="New password"
      type="password"
      autoComplete="new-password"
      hint={PASSWORD_HINT}
      value={value}
      error={error || undefined}
      onChange={(e) => onChange(e.currentTarget.value)}
      onKeyDown={(e) => {
        if (e.key === 'Enter') onEnter?.();
      }}
    />
  );
}
