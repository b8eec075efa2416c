/** What every field with a picker is given: a day, a time of day, a moment, a time zone. */
export interface PickerProps {
  label: string;
  hint?: string | undefined;
  error?: string | undefined;
  /** Empty where nothing is chosen */
  value: string;
  onChange(value: string): void;
  /** It cannot be emptied */
  isRequired?: boolean;
  /** The first and last day that can be chosen */
  min?: string;
  max?: string;
  /** Called when the focus has left it */
  onLeave?(): void;
}
