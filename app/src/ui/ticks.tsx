import { createElement } from 'react';
import { View } from 'react-native';
import { Text } from './text';

interface Props {
  label: string;
  all: readonly (readonly [value: string, words: string])[];
  chosen: readonly string[];
  error?: string | undefined;
  onChange(chosen: readonly string[]): void;
}

/** Any of a few, each with a box to tick. */
export function Ticks({ label, all, chosen, error, onChange }: Props) {
  return (
    <View role="group" aria-label={label} className="gap-0.5">
      <Text kind="label">{label}</Text>
      {all.map(([value, words]) =>
        createElement(
          'label',
          {
            key: value,
            className:
              'flex min-h-[44px] cursor-pointer flex-row items-center gap-3 font-text text-body text-ink',
          },
          createElement('input', {
            type: 'checkbox',
            checked: chosen.includes(value),
            onChange: () =>
              onChange(chosen.includes(value) ? chosen.filter((c) => c !== value) : [...chosen, value]),
            className: 'h-5 w-5 shrink-0 accent-[var(--lagoon)]',
          }),
          words,
        ),
      )}
      {error ? (
        <Text kind="small" role="alert" className="text-poppy">
          {error}
        </Text>
      ) : null}
    </View>
  );
}
