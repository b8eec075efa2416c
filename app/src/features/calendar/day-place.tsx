import { entryId, partWork, type AgendaEntry } from '@zephyrfield/core/view/entry';
import { dayWord } from '@zephyrfield/core/view/load';
import { hoursWords, longDay } from '@zephyrfield/core/words/when';
import { useMemo, useState, type ComponentProps } from 'react';
import { ScrollView, View } from 'react-native';
import { Barb } from '@/ui/barb';
import { Button } from '@/ui/button';
import { Text } from '@/ui/text';
import { DayBox, Draggable } from './drag';
import { SlipRow } from './slip-row';
import { TimeGrid } from './time-grid';
import { useDayRows } from './use-day-rows';

type Grid = Omit<ComponentProps<typeof TimeGrid>, 'first' | 'columns'>;
interface Props extends Grid {
  day: number;
  onFinish: ((entry: AgendaEntry) => void) | undefined;
}

/** A day on a wide screen: its hours, and beside them the work that is due on it. */
export function WideDay({ day, onFinish, ...grid }: Props) {
  const { shown, now, viewer } = grid;
  const { due, placed } = useMemo(() => partWork(shown, now, viewer), [shown, now, viewer]);
  return (
    <View className="min-h-0 flex-1 flex-row gap-4">
      <View className="min-h-0 min-w-0 max-w-[640px] flex-1">
        <TimeGrid first={day} columns={1} {...grid} shown={placed} />
      </View>
      <DueWork day={day} onFinish={onFinish} {...grid} shown={due} />
    </View>
  );
}

/** Number of slips that are drawn at first, and more at each asking: a feed may have any number due on a day. */
const STEP = 30;

function DueWork({ day, shown, shelfFrom, load, onFinish, ...drawing }: Props) {
  const { now, viewer } = drawing;
  const { entries } = useDayRows(shown, day, 1, 1, { now, viewer, shelfFrom })[0]!.days[0]!;
  const [drawn, setDrawn] = useState({ day, count: STEP });
  const count = drawn.day === day ? drawn.count : STEP;
  const minutes = load.get(day) ?? 0;
  return (
    <ScrollView className="min-h-0 min-w-0 max-w-[560px] flex-1" contentContainerClassName="pb-8 pr-2">
      <DayBox day={day} id="list" role="group" aria-label={`Due on ${longDay(day)}`}>
        <View className="min-h-touch flex-row items-center justify-between gap-2 px-4">
          <Text kind="title" heading={2}>
            Due
          </Text>
          {minutes >= 15 ? (
            <View className="flex-row items-center gap-2">
              <Barb minutes={minutes} size={34} />
              <Text kind="small">{`${hoursWords(minutes)} of work, ${dayWord(minutes)}`}</Text>
            </View>
          ) : null}
        </View>
        {entries.slice(0, count).map((entry) => (
          <Draggable key={entryId(entry)} entry={entry}>
            <SlipRow entry={entry} onFinish={onFinish} {...drawing} />
          </Draggable>
        ))}
        {entries.length > count ? (
          <Button kind="quiet" className="self-start" onPress={() => setDrawn({ day, count: count + STEP })}>
            {`Show ${Math.min(STEP, entries.length - count)} more`}
          </Button>
        ) : null}
        {entries.length ? null : (
          <View className="px-4 py-2">
            <Text className="text-ink2">Nothing is due on this day.</Text>
          </View>
        )}
      </DayBox>
    </ScrollView>
  );
}
