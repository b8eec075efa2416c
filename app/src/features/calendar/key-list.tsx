import { View } from 'react-native';
import { KeyRows } from '@/ui/key-rows';
import { Sheet } from '@/ui/sheet';
import { Text } from '@/ui/text';

/** The list of keys, under `?`. */
export function KeyList({ onClose }: { onClose(): void }) {
  return (
    <Sheet label="Keys" onClose={onClose}>
      <View className="gap-3">
        <Text kind="title" heading={2}>
          Keys
        </Text>
        <KeyRows />
      </View>
    </Sheet>
  );
}
