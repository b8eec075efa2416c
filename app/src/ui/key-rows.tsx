import { View } from 'react-native';
import { Text } from './text';

/** Every key with what it does. */
const KEYS: readonly (readonly [keys: string, step: string])[] = [
  ['← →', 'back and forward'],
  ['0', 'today'],
  ['+ −', 'closer and further: month, week, day, agenda'],
  ['/', 'filters and search'],
  ['1 … 9', 'show or hide that flag'],
  ['Shift 1 … 9', 'just that flag, and back'],
  ['Tab, Enter', 'from slip to slip, and open it'],
  ['Alt ← → ↑ ↓', 'move the slip with the focus by a day or a week'],
  ['w', 'write something down'],
  ['u', 'undo'],
  ['Esc', 'close what is open'],
  ['?', 'this list'],
];

/** The list of keys, a row each. */
export function KeyRows() {
  return KEYS.map(([keys, step]) => (
    <View key={keys} className="flex-row gap-3">
      <Text kind="strong" className="w-[110px]">
        {keys}
      </Text>
      <Text className="flex-1">{step}</Text>
    </View>
  ));
}
