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
  /** Says that others get what is made: a calendar kept from somebody then has to be chosen by name */
  isForOthers?: boolean;
  onChange(value: string[] | null): void;
}

/** All calendars of a schedule, or some of them. */
export function ChosenCalendars({ value, error, isForOthers = false, onChange }: Props) {
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
      {!value && isForOthers && calendars.some((c) => c.audience) ? (
        <Text kind="small">A calendar that is kept from someone goes out only if you choose it by name.</Text>
      ) : null}
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
