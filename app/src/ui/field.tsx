import {
  createElement,
  useId,
  useState,
  type InputHTMLAttributes,
  type ReactNode,
  type SelectHTMLAttributes,
  type TextareaHTMLAttributes,
} from 'react';
import { View } from 'react-native';
import { Text } from './text';

interface Frame {
  label: string;
  /** What helps to fill it in */
  hint?: string | undefined;
  error?: string | undefined;
  /** Its label is only heard: what is chosen in it says what it is */
  isLabelHeard?: boolean;
}

const BOX = 'min-h-[44px] w-full rounded-lg border bg-sheet px-3 py-2 font-text text-body text-ink';

/** A stretch of what is typed, drawn as what it was understood as. */
export interface Stretch {
  from: number;
  to: number;
  className: string;
}

function Framed({
  label,
  hint,
  error,
  isLabelHeard = false,
  id,
  children,
}: Frame & { id: string; children: ReactNode }) {
  return (
    <View className="gap-1">
      {createElement(
        'label',
        { htmlFor: id, className: isLabelHeard ? 'sr-only' : 'font-text text-small font-bold text-ink' },
        label,
      )}
      {children}
      {hint && !error ? (
        <Text kind="small" nativeID={`${id}-hint`}>
          {hint}
        </Text>
      ) : null}
      {error ? (
        <Text kind="small" className="text-poppy" nativeID={`${id}-error`} role="alert">
          {error}
        </Text>
      ) : null}
    </View>
  );
}

/** A text field. The plain input is what browsers, password keepers and screen readers know best. */
export function Field({
  label,
  hint,
  error,
  suggestions,
  ...input
}: Frame & InputHTMLAttributes<HTMLInputElement> & { suggestions?: readonly string[] }) {
  const id = useId();
  return (
    <Framed label={label} hint={hint} error={error} id={id}>
      {createElement('input', {
        id,
        'aria-invalid': error ? true : undefined,
        'aria-describedby': error ? `${id}-error` : hint ? `${id}-hint` : undefined,
        className: `${BOX} ${error ? 'border-poppy' : 'border-ink2'}`,
        ...(suggestions ? { list: `${id}-list` } : {}),
        ...input,
      })}
      {suggestions
        ? createElement(
            'datalist',
            { id: `${id}-list` },
            suggestions.map((value) => createElement('option', { key: value, value })),
          )
        : null}
    </Framed>
  );
}

/**
 * A text field in which stretches of what is typed are marked, behind the letters. What they mean is said in
 * words elsewhere.
 */
export function MarkedField({
  label,
  hint,
  value,
  stretches,
  ...input
}: Frame & InputHTMLAttributes<HTMLInputElement> & { value: string; stretches: readonly Stretch[] }) {
  const id = useId();
  // A line that is longer than its field is scrolled in it, and the marks go along.
  const [scrolled, setScrolled] = useState(0);
  const follow = (e: { currentTarget: HTMLInputElement }) => setScrolled(e.currentTarget.scrollLeft);
  const pieces = stretches.flatMap(({ from, to, className }, i) => [
    value.slice(stretches[i - 1]?.to ?? 0, from),
    createElement('span', { key: from, className: `rounded-sm ${className}` }, value.slice(from, to)),
  ]);
  return (
    <Framed label={label} hint={hint} id={id}>
      {createElement(
        'div',
        { className: 'relative' },
        createElement(
          'div',
          {
            'aria-hidden': true,
            className: `${BOX} absolute inset-0 overflow-hidden whitespace-pre border-transparent text-transparent`,
          },
          createElement(
            'span',
            { className: 'inline-block', style: { transform: `translateX(${-scrolled}px)` } },
            ...pieces,
            value.slice(stretches.at(-1)?.to ?? 0),
          ),
        ),
        createElement('input', {
          id,
          'aria-describedby': hint ? `${id}-hint` : undefined,
          className: `${BOX} relative border-ink2 bg-transparent`,
          value,
          onScroll: follow,
          onKeyUp: follow,
          ...input,
        }),
      )}
    </Framed>
  );
}

/** A field for more than a line. */
export function LongField({
  label,
  hint,
  error,
  ...area
}: Frame & TextareaHTMLAttributes<HTMLTextAreaElement>) {
  const id = useId();
  return (
    <Framed label={label} hint={hint} error={error} id={id}>
      {createElement('textarea', {
        id,
        'aria-invalid': error ? true : undefined,
        'aria-describedby': error ? `${id}-error` : hint ? `${id}-hint` : undefined,
        className: `${BOX} ${error ? 'border-poppy' : 'border-ink2'}`,
        ...area,
      })}
    </Framed>
  );
}

/** A choice among a few. */
export function Choice({
  label,
  hint,
  error,
  isLabelHeard,
  options,
  ...select
}: Frame &
  SelectHTMLAttributes<HTMLSelectElement> & { options: readonly { value: string; words: string }[] }) {
  const id = useId();
  return (
    <Framed {...{ label, hint, error, id }} isLabelHeard={isLabelHeard ?? false}>
      {createElement(
        'select',
        {
          id,
          'aria-describedby': error ? `${id}-error` : hint ? `${id}-hint` : undefined,
          className: `${BOX} ${error ? 'border-poppy' : 'border-ink2'}`,
          ...select,
        },
        options.map(({ value, words }) => createElement('option', { key: value, value }, words)),
      )}
    </Framed>
  );
}
