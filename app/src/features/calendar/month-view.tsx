import type { AgendaEntry } from '@zephyrfield/core/view/entry';
import type { DayRow } from '@zephyrfield/core/view/days';
import { civilDate } from '@zephyrfield/core/time/civil';
import type { OccurrenceView } from '@zephyrfield/core/api/schemas';
import { dayWord, loadOf, weekWord } from '@zephyrfield/core/view/load';
import { hoursWords, longDay, monthName, today as dayOf, weekdayName } from '@zephyrfield/core/words/when';
import { weekName, type TermWeek } from '@zephyrfield/core/view/term';
import { plural } from '@zephyrfield/core/words/text';
import { useState } from 'react';
import { Pressable, View } from 'react-native';
import { Barb } from '@/ui/barb';
import { ResponsiveText } from '@/ui/responsive-text';
import { Mark, SlipLine } from '@/ui/slip-line';
import { Text } from '@/ui/text';
import { useIsWide } from '@/ui/use-is-wide';
import { Draggable, DayBox } from './drag';
import { SpanRibbon } from './span-ribbon';
import { entryId, slipOf, type Drawing } from './drawing';
import { useDayRows } from './use-day-rows';

interface Props extends Drawing {
  shown: readonly OccurrenceView[];
  first: number;
  weeks: number;
  month: number;
  /** The day that is looked at */
  day: number;
  shelfFrom: number;
  termWeeks: readonly TermWeek[];
  weeksBy: 'term' | 'year';
  load: ReadonlyMap<number, number>;
  onDay(day: number): void;
}

/**
 * Height of a line in a day's cell with the gap below it, of that gap, and of what stands above the lines.
 */
const LINE = 26;
const GAP = 2;
const HEAD = 26;

/**
 * A month as rows of weeks, each with its name and load at the left. What does not fit in a day is counted.
 */
export function MonthView({
  shown,
  first,
  weeks,
  month,
  day,
  shelfFrom,
  termWeeks,
  weeksBy,
  load,
  onDay,
  ...drawing
}: Props) {
  const { now, viewer } = drawing;
  const wide = useIsWide();
  const [height, setHeight] = useState(0);
  const rows = useDayRows(shown, first, weeks, 7, { now, viewer, shelfFrom });
  const today = dayOf(now, viewer);
  const rowHeight = Math.max(wide ? 78 : 52, height / weeks);
  return (
    <View className="min-h-0 flex-1" role="table" aria-label={`${monthName(month)} by weeks`}>
      <View className="flex-row border-b border-line pb-1 pr-2" role="row">
        <View className={wide ? 'w-[92px] px-2' : 'w-[46px] px-0.5'} role="columnheader">
          <Text kind="tight" className="text-ink2">
            week
          </Text>
        </View>
        {Array.from({ length: 7 }, (_, i) => (
          <View key={i} role="columnheader" className="flex-1 px-1">
            <Text kind="tight" className="font-bold" numberOfLines={1}>
              {wide ? weekdayName(first + i) : weekdayName(first + i).slice(0, 2)}
            </Text>
          </View>
        ))}
      </View>
      <View
        className="min-h-0 flex-1 overflow-y-auto pr-2"
        onLayout={(e) => setHeight(e.nativeEvent.layout.height)}
      >
        {height
          ? rows.map((row) => (
              <View
                key={row.first}
                role="row"
                className="flex-row border-b border-line"
                style={{ minHeight: rowHeight }}
              >
                <WeekHead
                  name={weekName(row.first, termWeeks, weeksBy)}
                  minutes={loadOf(load, row.first, 7)}
                  wide={wide}
                />
                {wide ? (
                  <WideWeek
                    row={row}
                    height={rowHeight}
                    today={today}
                    month={month}
                    day={day}
                    load={load}
                    onDay={onDay}
                    {...drawing}
                  />
                ) : (
                  <NarrowWeek row={row} today={today} month={month} day={day} onDay={onDay} {...drawing} />
                )}
              </View>
            ))
          : null}
      </View>
    </View>
  );
}

function WeekHead({ name, minutes, wide }: { name: string; minutes: number; wide: boolean }) {
  return (
    <View
      role="rowheader"
      className={`gap-1 pt-1 ${wide ? 'w-[92px] px-2' : 'w-[46px] px-0.5'}`}
      aria-label={`${name}, ${minutes ? hoursWords(minutes) : 'no work'}, ${weekWord(minutes)}`}
    >
      <Text kind="tight" numberOfLines={2}>
        {wide ? name : name.replace(/^week /, 'w ')}
      </Text>
      {minutes >= 15 ? <Barb minutes={minutes} size={wide ? 40 : 34} colour="var(--ink2)" /> : null}
      {wide && minutes >= 15 ? <Text kind="fine">{weekWord(minutes)}</Text> : null}
    </View>
  );
}

interface WeekProps extends Drawing {
  row: DayRow;
  today: number;
  month: number;
  day: number;
  onDay(day: number): void;
}

/** The lines of a day hold slips alone: how many more there are stands beside its number. */
function WideWeek({
  row,
  height,
  today,
  month,
  day: looked,
  load,
  onDay,
  ...drawing
}: WeekProps & { height: number; load: ReadonlyMap<number, number> }) {
  const room = Math.max(1, Math.floor((height - 1 - HEAD + GAP) / LINE) - row.lanes);
  return (
    <View className="relative min-w-0 flex-1 flex-row">
      {row.days.map(({ day, entries }) => {
        const rest = Math.max(0, entries.length - room);
        const heavy = dayWord(load.get(day) ?? 0) === 'gale';
        // Beside the number its month or a gale may stand.
        const upTo = civilDate(day).day === 1 ? (heavy ? 124 : 106) : heavy ? 106 : 62;
        return (
          <DayBox
            key={day}
            day={day}
            role="cell"
            className={`min-w-0 flex-1 border-l border-line px-0.5 ${day === today ? 'bg-lagoon-wash' : ''}`}
          >
            <View className="flex-row justify-between measured">
              <DayNumber
                day={day}
                today={today}
                month={month}
                looked={looked}
                heavy={heavy}
                count={entries.length}
                onDay={onDay}
              />
              {rest ? (
                <Pressable
                  role="button"
                  onPress={() => onDay(day)}
                  className="h-[26px] min-w-[24px] items-center justify-center rounded px-1 hover:bg-lagoon-wash"
                  aria-label={`${rest} more on ${longDay(day)}`}
                >
                  <ResponsiveText
                    kind="fine"
                    long={`${rest} more`}
                    short={`+${rest}`}
                    upTo={upTo}
                    className="font-bold text-lagoon"
                  />
                </Pressable>
              ) : null}
            </View>
            <View style={{ height: row.lanes * LINE }} />
            <View className="gap-[2px]">
              {lessonsLast(entries)
                .slice(0, room)
                .map((entry) => (
                  <Draggable key={entryId(entry)} entry={entry}>
                    <SlipLine time="" {...slipOf(entry, drawing)} />
                  </Draggable>
                ))}
            </View>
          </DayBox>
        );
      })}
      {row.spans.length ? (
        <View role="cell" aria-label="Over several days" className="pointer-events-none absolute inset-0">
          {row.spans.map((span) => (
            <SpanRibbon
              key={entryId(span.entry)}
              span={span}
              columns={7}
              firstDay={row.days[0]!.day}
              top={HEAD + span.lane * LINE}
              drawing={drawing}
            />
          ))}
        </View>
      ) : null}
    </View>
  );
}

/** On a phone a day has room for shapes and colours alone; the chosen day's slips stand below. */
function NarrowWeek({ row, today, month, day: looked, onDay, ...drawing }: WeekProps) {
  return (
    <View className="min-w-0 flex-1 flex-row">
      {row.days.map(({ day, entries }, column) => {
        const spans = row.spans.filter((s) => s.from <= column && s.to >= column);
        const all = [...spans.map((s) => s.entry), ...entries];
        return (
          <View key={day} role="cell" className="min-w-0 flex-1 border-l border-line">
            <Pressable
              role="button"
              aria-label={`${longDay(day)}, ${plural(all.length, 'item')}`}
              aria-current={day === looked ? 'date' : undefined}
              onPress={() => onDay(day)}
              className={`min-h-[50px] flex-1 px-0.5 ${day === looked ? 'bg-lagoon-wash' : ''}`}
            >
              <Text
                kind="day"
                className={`text-center ${day === today ? 'font-extrabold text-lagoon underline' : civilDate(day).month === month ? '' : 'text-ink2'}`}
              >
                {civilDate(day).day}
              </Text>
              <View className="flex-row flex-wrap justify-center gap-[3px] pt-0.5">
                {all.slice(0, 6).map((entry) => {
                  const { shape, colour, urgency } = slipOf(entry, drawing);
                  return (
                    <Mark
                      key={entryId(entry)}
                      shape={shape}
                      colour={colour}
                      finished={urgency === 'finished'}
                    />
                  );
                })}
              </View>
              {all.length > 6 ? (
                <Text kind="fine" className="text-center text-ink2">
                  +{all.length - 6}
                </Text>
              ) : null}
            </Pressable>
          </View>
        );
      })}
    </View>
  );
}

function DayNumber({
  day,
  today,
  month,
  looked,
  heavy,
  count,
  onDay,
}: {
  day: number;
  today: number;
  month: number;
  looked: number;
  heavy: boolean;
  count: number;
  onDay(day: number): void;
}) {
  const date = civilDate(day);
  return (
    <Pressable
      role="button"
      aria-label={`${longDay(day)}, ${plural(count, 'item')}${heavy ? ', gale' : ''}`}
      aria-current={day === looked ? 'date' : undefined}
      onPress={() => onDay(day)}
      className={`h-[26px] flex-1 flex-row items-center gap-1 rounded px-1 hover:bg-lagoon-wash ${day === looked ? 'border-b-2 border-lagoon' : ''}`}
    >
      <Text
        kind="day"
        numberOfLines={1}
        className={`${day === today ? 'font-extrabold text-lagoon' : date.month === month ? 'font-bold' : 'text-ink2'}`}
      >
        {date.day === 1 ? `1 ${monthName(date.month).slice(0, 3)}` : date.day}
      </Text>
      {heavy ? (
        <Text kind="fine" className="font-bold text-marigold within-[88px]:hidden" aria-hidden>
          gale
        </Text>
      ) : null}
    </Pressable>
  );
}

/** Gives what is not every week comes first where there is little room: a timetable is known. */
const lessonsLast = (entries: readonly AgendaEntry[]): readonly AgendaEntry[] => {
  const isLesson = ({ occurrence: o }: AgendaEntry) => o.kind === 'lesson' && o.recurrenceId !== '';
  return [...entries.filter((e) => !isLesson(e)), ...entries.filter(isLesson)];
};
