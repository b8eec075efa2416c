import { ScrollView, View } from 'react-native';
import { Choices } from '@/ui/choices';
import type { Looking } from './use-look';

const GROUPS = [
  ['day', 'by day'],
  ['course', 'by course'],
  ['kind', 'by what it is'],
] as const;
const SPANS = [
  ['upcoming', 'upcoming'],
  ['past', 'past'],
  ['all', 'everything'],
] as const;

/** How the agenda is grouped, and which way it looks. */
export function AgendaHead({
  group,
  span,
  onChange,
}: Pick<Looking, 'group' | 'span'> & { onChange(to: Partial<Pick<Looking, 'group' | 'span'>>): void }) {
  return (
    <ScrollView
      horizontal
      showsHorizontalScrollIndicator={false}
      className="flex-grow-0"
      contentContainerClassName="gap-2 px-2"
    >
      <Choices label="Grouped" all={GROUPS} value={group} onChange={(to) => onChange({ group: to })} />
      <View className="my-3 border-l border-line" />
      <Choices label="Which" all={SPANS} value={span} onChange={(to) => onChange({ span: to })} />
    </ScrollView>
  );
}
