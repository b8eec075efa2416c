import { entryId } from '@zephyrfield/core/view/entry';
import type { OccurrenceView } from '@zephyrfield/core/api/schemas';
import { civilDate } from '@zephyrfield/core/time/civil';
import { hoursOf } from '@zephyrfield/core/view/days';
import { dayWord } from '@zephyrfield/core/view/load';
import {
  hoursWords,
  longDay,
  minuteOfDay,
  minuteWords,
  today as dayOf,
  weekdayName,
} from '@zephyrfield/core/words/when';
import { slipTime } from '@zephyrfield/core/view/slips';
import { useState } from 'react';
import { Pressable, ScrollView, View } from 'react-native';
import { Barb } from '@/ui/barb';
import { SlipLine } from '@/ui/slip-line';
import { Text } from '@/ui/text';
import { useIsWide } from '@/ui/use-is-wide';
import { Draggable, DayBox } from './drag';
import { HourColumn } from './hour-column';
import { SpanRibbon } from './span-ribbon';
import { slipOf, type Drawing } from './drawing';
import { useDayRows } from './use-day-rows';

interface Props extends Drawing {
  shown: readonly OccurrenceView[];
  first: number;
  columns: number;
  shelfFrom: number;
  dayFrom: number;
  dayTo: number;
  load: ReadonlyMap<number, number>;
  onDay(day: number): void;
  onWrite: ((day: number, minute: number | null) => void) | undefined;
}

const GUTTER = 52;
const LINE = 27;
/** The line at the left of each day, in pixels */
const EDGE = 1;

/**
 * Days as columns over their hours, with what lasts days on top and below it the shelf “by end of day”, so
 * that a late deadline never sinks: what a week and a day show.
 */
export function TimeGrid({
  shown,
  first,
  columns,
  shelfFrom,
  dayFrom,
  dayTo,
  load,
  onDay,
  onWrite,
  ...drawing
}: Props) {
  const { now, viewer } = drawing;
  const wide = useIsWide();
  const [{ height, width }, setSize] = useState({ height: 0, width: 0 });
  // Head and view: a head that leaves no room for the hours scrolls away with them.
  const [tall, setTall] = useState({ head: 0, view: 0 });
  const row = useDayRows(shown, first, 1, columns, { now, viewer, shelfFrom })[0]!;
  const hours = hoursOf(row.days, dayFrom, dayTo);
  const today = dayOf(now, viewer);
  const nowMinute = minuteOfDay(now, viewer);
  // The hours fill what is there; a long day scrolls.
  const hour = Math.max(36, height / (hours.to - hours.from));
  const hasShelf = row.days.some((d) => d.shelf.length);
  return (
    <View className="min-h-0 flex-1">
      {columns > 1 ? (
        <View className="flex-row pr-2" role="presentation">
          <View style={{ width: GUTTER }} />
          {row.days.map(({ day }) => (
            <DayHead key={day} day={day} isToday={day === today} minutes={load.get(day) ?? 0} onDay={onDay} />
          ))}
        </View>
      ) : null}
      <ScrollView
        className="min-h-0 flex-1"
        contentContainerClassName="grow pr-2"
        stickyHeaderIndices={tall.head <= tall.view / 2 ? [0] : []}
        onLayout={({ nativeEvent: { layout } }) => setTall((t) => ({ ...t, view: layout.height }))}
      >
        <View
          className="border-b-2 border-ink bg-paper pb-1"
          onLayout={({ nativeEvent: { layout } }) => setTall((t) => ({ ...t, head: layout.height }))}
        >
          {row.lanes ? (
            <View className="ml-[52px]" style={{ height: row.lanes * LINE }}>
              {row.days.map(({ day }, i) => (
                <DayBox
                  key={day}
                  day={day}
                  id="spans"
                  aria-hidden
                  className="absolute bottom-0 top-0"
                  style={{ left: `${(i / columns) * 100}%`, width: `${100 / columns}%` }}
                >
                  {null}
                </DayBox>
              ))}
              {row.spans.map((span) => (
                <SpanRibbon
                  key={entryId(span.entry)}
                  span={span}
                  widths={{ columns }}
                  firstDay={row.days[0]!.day}
                  top={span.lane * LINE}
                  drawing={drawing}
                />
              ))}
            </View>
          ) : null}
          {hasShelf ? (
            <View className="flex-row">
              <View style={{ width: GUTTER }} className="pr-1 pt-1">
                <Text kind="fine" className="text-right">
                  by end of day
                </Text>
              </View>
              {row.days.map(({ day, shelf }) => (
                <DayBox
                  key={day}
                  day={day}
                  id="shelf"
                  role="list"
                  aria-label={`By the end of ${longDay(day)}`}
                  className={`min-w-0 flex-1 gap-1 px-0.5 pt-1 ${day === today && columns > 1 ? 'bg-lagoon-wash' : ''}`}
                >
                  {shelf.map((entry) => (
                    <View key={entryId(entry)} role="listitem" className="measured">
                      <Draggable entry={entry}>
                        <SlipLine
                          tall
                          time={
                            entry.urgency !== null && entry.occurrence.due?.kind !== 'date'
                              ? slipTime(entry, viewer)
                              : ''
                          }
                          {...slipOf(entry, drawing)}
                        />
                      </Draggable>
                    </View>
                  ))}
                </DayBox>
              ))}
            </View>
          ) : null}
        </View>
        <View
          className="grow flex-row"
          style={{ minHeight: 36 * (hours.to - hours.from) }}
          onLayout={({ nativeEvent: { layout } }) => setSize({ height: layout.height, width: layout.width })}
        >
          <View style={{ width: GUTTER }} aria-hidden>
            {Array.from({ length: hours.to - hours.from }, (_, i) => (
              <Text
                kind="fine"
                key={i}
                className={`absolute right-2 ${i === 0 ? '' : '-mt-2.5'}`}
                style={{ top: i * hour }}
              >
                {viewer.hours === 12
                  ? minuteWords((hours.from + i) * 60, 12).replace(':00', '')
                  : hours.from + i}
              </Text>
            ))}
          </View>
          {height
            ? row.days.map((column) => (
                <HourColumn
                  key={column.day}
                  column={column}
                  from={hours.from}
                  count={hours.to - hours.from}
                  hour={hour}
                  width={(width - GUTTER) / columns - EDGE}
                  onDay={onDay}
                  nowMinute={column.day === today ? nowMinute : null}
                  roomy={columns === 1 || wide}
                  onWrite={onWrite}
                  {...drawing}
                />
              ))
            : null}
        </View>
      </ScrollView>
    </View>
  );
}

function DayHead({
  day,
  isToday,
  minutes,
  onDay,
}: {
  day: number;
  isToday: boolean;
  minutes: number;
  onDay(day: number): void;
}) {
  return (
    <Pressable
      role="button"
      aria-label={`${longDay(day)}, ${minutes >= 15 ? `${hoursWords(minutes)} of work, ` : ''}${dayWord(minutes)}`}
      title={minutes >= 15 ? `${hoursWords(minutes)} of work, ${dayWord(minutes)}` : undefined}
      onPress={() => onDay(day)}
      className={`min-h-touch min-w-0 flex-1 flex-row items-center justify-between gap-1 px-1.5 hover:bg-lagoon-wash ${isToday ? 'rounded-t-lg bg-lagoon-wash' : ''}`}
    >
      <Text kind="day" numberOfLines={1} className={`font-bold ${isToday ? 'text-lagoon' : ''}`}>
        {weekdayName(day).slice(0, 3)} {civilDate(day).day}
      </Text>
      {minutes >= 15 ? (
        <Barb minutes={minutes} size={34} colour={isToday ? 'var(--lagoon)' : 'var(--ink)'} />
      ) : null}
    </Pressable>
  );
}
