import { View } from 'react-native';
import { Sheet } from '@/ui/sheet';
import { Text } from '@/ui/text';
import { KEYS } from './use-keys';

/** The list of keys, under `?`. */
export function KeyList({ onClose }: { onClose(): void }) {
  return (
    <Sheet label="Keys" onClose={onClose}>
      <View className="gap-3">
        <Text kind="title" heading={2}>
          Keys
        </Text>
        {KEYS.map(([keys, step]) => (
          <View key={keys} className="flex-row gap-3">
            <Text kind="strong" className="w-[110px]">
              {keys}
            </Text>
            <Text className="flex-1">{step}</Text>
          </View>
        ))}
      </View>
    </Sheet>
  );
}
