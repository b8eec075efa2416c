import type { ReactNode } from 'react';
import { ScrollView, View } from 'react-native';
import { useTheme } from '@/data/theme';
import { Contours } from '@/ui/contours';
import { Text } from '@/ui/text';

/** A page that stands by itself: where a link in a mail leads. */
export function LonePage({ title, children }: { title: string; children: ReactNode }) {
  useTheme();
  return (
    <View role="main" className="flex-1 bg-paper">
      <ScrollView contentContainerClassName="mx-auto w-full max-w-[440px] gap-4 px-5 pb-10 pt-10">
        <Contours height={90} />
        <Text kind="display" heading={1}>
          {title}
        </Text>
        {children}
      </ScrollView>
    </View>
  );
}
