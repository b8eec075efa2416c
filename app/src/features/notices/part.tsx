import { View } from 'react-native';
import { Text } from '@/ui/text';

/** One part of the page, under its heading. */
export function Part({ title, children }: { title: string; children: React.ReactNode }) {
  return (
    <View role="group" aria-label={title} className="gap-3">
      <Text kind="title" heading={2}>
        {title}
      </Text>
      {children}
    </View>
  );
}
