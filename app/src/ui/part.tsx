import type { ReactNode } from 'react';
import { View } from 'react-native';
import { Text } from '@/ui/text';

/** A part of the page under its title, with a count or a link beside it. */
export function Part({
  title,
  aside,
  isPastDue = false,
  children,
}: {
  title: string;
  aside: ReactNode;
  isPastDue?: boolean;
  children: ReactNode;
}) {
  return (
    <View role="group" aria-label={title} className="gap-2 pt-5">
      <View className="flex-row flex-wrap items-baseline justify-between gap-x-2">
        <Text kind="title" heading={2} className={isPastDue ? 'text-poppy' : ''}>
          {title}
        </Text>
        {typeof aside === 'string' ? <Text kind="small">{aside}</Text> : aside}
      </View>
      {children}
    </View>
  );
}
