import type { CalendarView } from '@zephyrfield/core/api/schemas';
import type { ReactNode } from 'react';
import { View } from 'react-native';
import { Flag } from './flag';
import { Text } from './text';

interface Props {
  calendar: CalendarView | undefined;
  title: string;
  /** What stands below the title */
  children: ReactNode;
}

/** What stands first on a sheet about an item: its calendar and its title, beside the way out. */
export function ItemHead({ calendar, title, children }: Props) {
  return (
    <View className="gap-1 pr-10">
      <View className="flex-row items-center gap-2">
        {calendar ? <Flag colour={calendar.colour} flag={calendar.flag} size={18} /> : null}
        <Text className="flex-1 text-ink2">{calendar?.name}</Text>
      </View>
      <Text kind="title" heading={2} dir="auto">
        {title}
      </Text>
      {children}
    </View>
  );
}
