import type { OccurrenceView } from '@zephyrfield/core/api/schemas';
import type { DayRow } from '@zephyrfield/core/view/days';
import { entryId, type AgendaEntry } from '@zephyrfield/core/view/entry';
import { dayWord } from '@zephyrfield/core/view/load';
import { hoursWords, daysAway, longDay, today as dayOf } from '@zephyrfield/core/words/when';
import { ScrollView, View } from 'react-native';
import { Barb } from '@/ui/barb';
import { Text } from '@/ui/text';
import { Draggable, DayBox } from './drag';
import { type Drawing } from './drawing';
import { SlipRow } from './slip-row';
import { useDayRows } from './use-day-rows';

interface Props extends Drawing {
  shown: readonly OccurrenceView[];
  first: number;
  count: number;
  shelfFrom: number;
  load: ReadonlyMap<number, number>;
  onFinish?: ((entry: AgendaEntry) => void) | undefined;
}

/** Gives what stands on one day of a row, long things first where they are not said above it. */
const entriesOn = (row: DayRow, column: number): AgendaEntry[] => [
  ...(row.days.length > 1 ? [] : row.spans.map((s) => s.entry)),
  ...row.days[column]!.entries,
];

/**
 * Some days one below the other, each with its load and its slips in order: a week on a phone, a chosen day.
 * What lasts several days is said once, above them.
 */
export function DayLists({ shown, first, count, shelfFrom, load, onFinish, ...drawing }: Props) {
  const { now, viewer } = drawing;
  const row = useDayRows(shown, first, 1, count, { now, viewer, shelfFrom })[0]!;
  const today = dayOf(now, viewer);
  return (
    <ScrollView className="min-h-0 flex-1" contentContainerClassName="pb-8">
      {count > 1 && row.spans.length ? (
        <View role="group" aria-label="Over several days" className="pt-2">
          {row.spans.map(({ entry }) => (
            <Draggable key={entryId(entry)} entry={entry}>
              <SlipRow entry={entry} onFinish={onFinish} {...drawing} />
            </Draggable>
          ))}
        </View>
      ) : null}
      {row.days.map(({ day }, i) => {
        const entries = entriesOn(row, i);
        const minutes = load.get(day) ?? 0;
        return (
          <DayBox key={day} day={day} id="list" role="group" aria-label={longDay(day)}>
            <View className="flex-row items-center gap-2 px-4 pb-1 pt-3">
              <View className="min-w-0 flex-1 flex-row flex-wrap items-baseline gap-x-2">
                <Text kind="title" heading={2} className={day === today ? 'text-lagoon' : ''}>
                  {longDay(day)}
                </Text>
                <Text kind="small">{daysAway(day, today)}</Text>
              </View>
              {minutes >= 15 ? (
                <View className="items-end" title={`${hoursWords(minutes)} of work, ${dayWord(minutes)}`}>
                  <Barb minutes={minutes} />
                  <Text kind="fine" className="text-ink2">
                    {hoursWords(minutes)}, {dayWord(minutes)}
                  </Text>
                </View>
              ) : null}
            </View>
            {entries.map((entry) => (
              <Draggable key={entryId(entry)} entry={entry}>
                <SlipRow entry={entry} onFinish={onFinish} {...drawing} />
              </Draggable>
            ))}
            {entries.length === 0 ? (
              <View className="px-4 py-2">
                <Text className="text-ink2">Nothing.</Text>
              </View>
            ) : null}
          </DayBox>
        );
      })}
    </ScrollView>
  );
}
