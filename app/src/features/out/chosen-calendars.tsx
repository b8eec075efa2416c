import { View } from 'react-native';
import { useLearner } from '@/data/learner';
import { useCalendars } from '@/data/queries';
import { Choices } from '@/ui/choices';
import { Text } from '@/ui/text';
import { Ticks } from '@/ui/ticks';

const WHICH = [
  ['all', 'all calendars'],
  ['some', 'only some'],
] as const;

interface Props {
  /** Null for all, also those to come */
  value: string[] | null;
  error?: string | undefined;
  onChange(value: string[] | null): void;
}

/** All calendars of a schedule, or some of them. */
export function ChosenCalendars({ value, error, onChange }: Props) {
  const { learner } = useLearner()!;
  const calendars = useCalendars(learner.id).data ?? [];
  return (
    <View className="gap-0.5">
      <Text kind="label">What goes out</Text>
      <View className="-ml-2">
        <Choices
          label="What goes out"
          all={WHICH}
          value={value ? 'some' : 'all'}
          onChange={(which) => onChange(which === 'all' ? null : calendars.map((c) => c.id))}
        />
      </View>
      {value ? (
        <Ticks
          label="These calendars"
          all={calendars.map((c) => [c.id, c.name])}
          chosen={value}
          error={error}
          onChange={(chosen) => onChange([...chosen])}
        />
      ) : null}
    </View>
  );
}
