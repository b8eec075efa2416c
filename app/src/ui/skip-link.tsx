import { Pressable } from 'react-native';
import { Text } from './text';

/** A stop that leads past what comes first, seen only while it has the focus (WCAG 2.2, 2.4.1). */
export const SkipLink = ({ words, onPress }: { words: string; onPress(): void }) => (
  <Pressable
    role="button"
    onPress={onPress}
    className="sr-only focus:not-sr-only focus:absolute focus:left-2 focus:top-2 focus:z-50 focus:rounded-lg focus:bg-sheet focus:p-3"
  >
    <Text kind="label">{words}</Text>
  </Pressable>
);
