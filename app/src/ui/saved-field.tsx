import { useEffect, useRef, useState, type InputHTMLAttributes } from 'react';
import { Field } from './field';

/**
 * Runs what is to be done when something is left, however that comes about: it goes away, or the window goes
 * out of sight.
 */
export function useLeaving(leave: () => void): void {
  const leaving = useRef(leave);
  useEffect(() => {
    leaving.current = leave;
  });
  useEffect(() => {
    const hide = () => document.visibilityState === 'hidden' && leaving.current();
    document.addEventListener('visibilitychange', hide);
    return () => {
      document.removeEventListener('visibilitychange', hide);
      leaving.current();
    };
  }, []);
}

interface Props extends Omit<InputHTMLAttributes<HTMLInputElement>, 'value' | 'onChange' | 'onBlur'> {
  label: string;
  hint?: string | undefined;
  error?: string | undefined;
  suggestions?: readonly string[];
  /** As it stands */
  value: string;
  /** Saves what was typed; what it finds wrong with it comes back as `error`, and the text stays */
  onSave(text: string): void;
}

/** A field that is saved when it is left, or with Enter. */
export function SavedField({ value, error, onSave, ...field }: Props) {
  // What is typed counts while what it was typed over stands.
  const [kept, setKept] = useState<{ text: string; over: string } | null>(null);
  const text = kept?.over === value ? kept.text : value;
  const sent = useRef<string | null>(null);
  const leave = () => {
    if (text === value) return setKept(null);
    if (sent.current === text) return;
    sent.current = text;
    onSave(text);
  };
  useLeaving(leave);
  return (
    <Field
      {...field}
      error={error || undefined}
      value={text}
      onChange={(e) => {
        sent.current = null;
        setKept({ text: e.currentTarget.value, over: value });
      }}
      // Come back to, what was refused may go again.
      onFocus={() => {
        sent.current = null;
      }}
      onBlur={leave}
      onKeyDown={(e) => {
        if (e.key === 'Enter') leave();
      }}
    />
  );
}
