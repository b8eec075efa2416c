import type { AgendaEntry } from '@zephyrfield/core/view/entry';
import { slipWhen } from '@zephyrfield/core/view/slips';
import { capital } from '@zephyrfield/core/words/text';
import type { Viewer } from '@zephyrfield/core/words/when';
import { View } from 'react-native';
import { Sheet } from '@/ui/sheet';
import { Text } from '@/ui/text';

/** Hours of a calendar that is kept from who looks: when, and that no more is told. */
export function BusySheet({
  entry,
  name,
  viewer,
  onClose,
}: {
  entry: AgendaEntry;
  name: string;
  viewer: Viewer;
  onClose(): void;
}) {
  return (
    <Sheet label="Busy" onClose={onClose}>
      <View className="gap-3 pr-10">
        <Text kind="title" heading={2}>
          Busy
        </Text>
        <Text>{capital(slipWhen(entry, viewer))}</Text>
        <Text className="text-ink2">{`${name} is taken then. What it is stands in a calendar that is for some of the crew only.`}</Text>
      </View>
    </Sheet>
  );
}
