import { Pressable, View } from 'react-native';
import { Text } from './text';

/**
 * How one of a few looks: what is chosen stands on paper, with a base line as a slip has; the others are
 * plain words. Nothing that can be pressed to do something looks like it: an action in text is underlined, a
 * button is a box.
 */
export const choiceBox = (isChosen: boolean): string =>
  `min-h-touch justify-center rounded-t-lg border-b-[3px] px-2.5 ${isChosen ? 'border-lagoon bg-sheet shadow-sm' : 'border-transparent hover:bg-lagoon-wash'}`;
export const choiceWords = (isChosen: boolean): string => (isChosen ? 'font-bold text-ink' : 'text-ink2');

interface Props<T extends string> {
  label: string;
  all: readonly (readonly [value: T, words: string])[];
  value: T;
  onChange(value: T): void;
}

/** One of a few, side by side as words. */
export function Choices<T extends string>({ label, all, value, onChange }: Props<T>) {
  // The chosen one is the group's stop; where none is, the first.
  const stop = Math.max(
    0,
    all.findIndex(([each]) => each === value),
  );
  return (
    <View role="radiogroup" aria-label={label} className="shrink flex-row flex-wrap">
      {all.map(([each, words], i) => (
        <Pressable
          key={each}
          role="radio"
          aria-checked={each === value}
          tabIndex={i === stop ? 0 : -1}
          // What is chosen already changes nothing, and resets nothing that hangs on it.
          onPress={() => each !== value && onChange(each)}
          className={choiceBox(each === value)}
        >
          <Text kind="small" className={choiceWords(each === value)}>
            {words}
          </Text>
        </Pressable>
      ))}
    </View>
  );
}
