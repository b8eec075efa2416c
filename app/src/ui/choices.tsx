import { Pressable, View } from 'react-native';
import { Text } from './text';

interface Props<T extends string> {
  label: string;
  all: readonly (readonly [value: T, words: string])[];
  value: T;
  onChange(value: T): void;
}

/** One of a few, side by side as words; the one that holds is underlined. */
export function Choices<T extends string>({ label, all, value, onChange }: Props<T>) {
  return (
    <View role="radiogroup" aria-label={label} className="flex-row">
      {all.map(([each, words]) => (
        <Pressable key={each} role="radio" aria-checked={each === value} onPress={() => onChange(each)} className="min-h-touch justify-center rounded-lg px-2 hover:bg-lagoon-wash">
          <Text kind="small" className={each === value ? 'font-bold text-lagoon underline' : 'text-ink2'}>
            {words}
          </Text>
        </Pressable>
      ))}
    </View>
  );
}
