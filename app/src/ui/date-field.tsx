import { useRef, useState, type ComponentType } from 'react';
import { lazyComponent } from './lazy';
import type { PickerProps } from './picker-props';
import { useLeaving } from './saved-field';

/** A day, as `2026-10-09`. */
export const DateField = lazyComponent<PickerProps>(
  () => import('./picker-bundle').then((m) => m.DayPicker),
  'field',
);
/** An hour of the day, as `16:00`. */
export const TimeField = lazyComponent<PickerProps>(
  () => import('./picker-bundle').then((m) => m.HourPicker),
  'field',
);
/** A moment on the person's wall clock, as `2026-10-09T16:00`. */
export const MomentField = lazyComponent<PickerProps>(
  () => import('./picker-bundle').then((m) => m.MomentPicker),
  'field',
);

interface SavedProps extends Omit<PickerProps, 'onChange' | 'onLeave'> {
  as: ComponentType<PickerProps>;
  /** Saves what was chosen; what it finds wrong with it comes back as `error` */
  onSave(value: string): void;
}

/** A day or an hour that is saved when it is left. */
export function SavedPicker({ as: Picker, value, onSave, ...field }: SavedProps) {
  const [kept, setKept] = useState<{ text: string; over: string } | null>(null);
  const text = kept?.over === value ? kept.text : value;
  const sent = useRef<string | null>(null);
  const leave = () => {
    if (text === value || sent.current === text) return;
    sent.current = text;
    onSave(text);
  };
  useLeaving(leave);
  return (
    <Picker
      {...field}
      value={text}
      onChange={(next) => {
        sent.current = null;
        setKept({ text: next, over: value });
      }}
      onLeave={leave}
    />
  );
}

/** A time zone by its name; `otherwise` says what holds where it is empty. */
export const ZoneField = lazyComponent<PickerProps & { otherwise?: string }>(
  () => import('./picker-bundle').then((m) => m.ZonePicker),
  'field',
);
