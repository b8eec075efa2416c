import { View } from 'react-native';
import { Text } from './text';

/** The first letters of a name, at most two. */
export const initialsOf = (name: string): string => {
  const words = name.trim().split(/\s+/);
  const last = words.length > 1 ? words.at(-1)![0] : '';
  return `${words[0]?.[0] ?? ''}${last ?? ''}`.toUpperCase();
};

/** Somebody's mark: their initials on a cleat, a bar with two horns. The name stands beside it, or is said. */
export function Cleat({ name, small = false }: { name: string; small?: boolean }) {
  return (
    <View
      role="img"
      aria-label={name}
      className={`items-center justify-center border-y border-ink2 bg-sheet ${
        small ? 'h-[18px] min-w-[26px] border-x-[4px] px-0.5' : 'h-[28px] min-w-[44px] border-x-[7px] px-1'
      } rounded-[3px]`}
    >
      <Text kind={small ? 'fine' : 'label'} className="text-ink" aria-hidden>
        {initialsOf(name)}
      </Text>
    </View>
  );
}
