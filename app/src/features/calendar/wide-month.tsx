import type { DayRow } from '@zephyrfield/core/view/days';
import { entryId, type AgendaEntry } from '@zephyrfield/core/view/entry';
import { dayWord, loadOf } from '@zephyrfield/core/view/load';
import { monthTime } from '@zephyrfield/core/view/slips';
import { weekName, type TermWeek } from '@zephyrfield/core/view/term';
import { civilDate, weekday } from '@zephyrfield/core/time/civil';
import { instantIn } from '@zephyrfield/core/time/when';
import { plural } from '@zephyrfield/core/words/text';
import { clockTime, longDay, monthName, weekdayName } from '@zephyrfield/core/words/when';
import { useMemo, useState } from 'react';
import { Pressable, View } from 'react-native';
import { SlipLine } from '@/ui/slip-line';
import { Text } from '@/ui/text';
import { DayBox, Draggable } from './drag';
import { slipOf, type Drawing } from './drawing';
import { HEAD, LINE, columnWidths, layMonth, type MonthCell, type MonthWeek } from './month-layout';
import { SpanRibbon } from './span-ribbon';
import { WeekHead } from './week-head';

interface Props extends Drawing {
  rows: readonly DayRow[];
  month: number;
  /** The day that is opened beside it; null for none */
  opened: number | null;
  today: number;
  termWeeks: readonly TermWeek[];
  weeksBy: 'term' | 'year';
  load: ReadonlyMap<number, number>;
  onDay(day: number): void;
}

/** Widths in pixels: of what stands beside a title in its slip, and of a letter of it. */
const BESIDE = 34;
const TIME = 46;
const CHECK = 22;
const MARK = 24;
const LETTER = 6.1;
/** Up to this width of a slip its time stands below a title of two lines; the style sheet has the same bound. */
const NARROW = 139;

/** A month on a wide screen: weeks as rows, each as high as it needs, due work first, lessons in one line. */
export function WideMonth({
  rows,
  month,
  opened,
  today,
  termWeeks,
  weeksBy,
  load,
  onDay,
  ...drawing
}: Props) {
  const [room, setRoom] = useState({ width: 0, height: 0 });
  const isShared = [...drawing.byId.values()].some((c) => 'whose' in c && c.whose);
  const widths = useMemo(
    () => columnWidths(rows, room.width - WEEK_HEAD, (day) => weekday(day) > 5),
    [rows, room.width],
  );
  const weeks = useMemo(
    () =>
      layMonth(rows, {
        height: room.height,
        isNarrow: (column) => widths[column]! - 4 <= NARROW,
        letters: (column, entry) => {
          const isNarrow = widths[column]! - 4 <= NARROW;
          const beside =
            entry.urgency === 'finished'
              ? CHECK
              : isNarrow
                ? 10
                : monthTime(entry, drawing.viewer)
                  ? TIME
                  : 10;
          return Math.floor((widths[column]! - BESIDE - beside - (isShared ? MARK : 0)) / LETTER);
        },
      }),
    [rows, room.height, widths, isShared, drawing.viewer],
  );
  return (
    <View className="min-h-0 flex-1" role="table" aria-label={`${monthName(month)} by weeks`}>
      <View className="h-[20px] flex-row border-b border-line pr-2" role="row">
        <View style={{ width: WEEK_HEAD }} role="columnheader">
          <Text className="sr-only">week</Text>
        </View>
        {rows[0]?.days.map(({ day }, i) => (
          <View key={day} role="columnheader" style={{ width: widths[i] }} className="px-1.5">
            <Text kind="tight" className="text-ink2" numberOfLines={1}>
              {weekdayName(day)}
            </Text>
          </View>
        ))}
      </View>
      <View
        className="min-h-0 flex-1 overflow-y-auto pr-2"
        onLayout={(e) => {
          const { width, height } = e.nativeEvent.layout;
          setRoom({ width: width - 8, height: height - 1 });
        }}
      >
        {room.height
          ? weeks.map((week) => (
              <View
                key={week.row.first}
                role="row"
                className="flex-row border-b border-line"
                style={{ height: week.height }}
              >
                <WeekHead
                  name={weekName(week.row.first, termWeeks, weeksBy)}
                  minutes={loadOf(load, week.row.first, 7)}
                  width={WEEK_HEAD}
                />
                <Days {...{ week, widths, month, opened, today, load, onDay }} {...drawing} />
              </View>
            ))
          : null}
      </View>
    </View>
  );
}
const WEEK_HEAD = 68;
const OPENED = 'border-t-[3px] border-t-lagoon';

interface DaysProps extends Drawing {
  week: MonthWeek;
  widths: readonly number[];
  month: number;
  opened: number | null;
  today: number;
  load: ReadonlyMap<number, number>;
  onDay(day: number): void;
}

function Days({ week: { row, cells }, widths, month, opened, today, load, onDay, ...drawing }: DaysProps) {
  return (
    <View className="relative flex-row">
      {cells.map((cell, column) => (
        <DayBox
          key={cell.day}
          day={cell.day}
          role="cell"
          style={{ width: widths[column] }}
          className={`border-l border-line px-0.5 ${cell.day === today ? 'bg-lagoon-wash' : ''} ${cell.day === opened ? OPENED : ''}`}
        >
          <DayHead
            cell={cell}
            isToday={cell.day === today}
            isOpened={cell.day === opened}
            isInMonth={civilDate(cell.day).month === month}
            isGale={dayWord(load.get(cell.day) ?? 0) === 'gale'}
            onDay={onDay}
          />
          <View style={{ height: row.lanes * LINE }} />
          <View className="gap-[2px]">
            {cell.lines.map(({ entry, isTall }) => (
              <Draggable key={entryId(entry)} entry={entry}>
                <View className="measured">
                  <SlipLine
                    {...slipOf(entry, drawing)}
                    time={monthTime(entry, drawing.viewer)}
                    tall={isTall}
                  />
                </View>
              </Draggable>
            ))}
            <Lessons lessons={cell.lessons} viewer={drawing.viewer} />
          </View>
        </DayBox>
      ))}
      {row.spans.length ? (
        <View role="cell" aria-label="Over several days" className="pointer-events-none absolute inset-0">
          {row.spans.map((span) => (
            <SpanRibbon
              key={entryId(span.entry)}
              span={span}
              widths={widths}
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

interface DayHeadProps {
  cell: MonthCell;
  isToday: boolean;
  isOpened: boolean;
  isInMonth: boolean;
  isGale: boolean;
  onDay(day: number): void;
}

/** A day’s number, which opens it, and how much more there is. */
function DayHead({ cell: { day, count, more }, isToday, isOpened, isInMonth, isGale, onDay }: DayHeadProps) {
  const date = civilDate(day);
  return (
    <View className="flex-row justify-between">
      <Pressable
        role="button"
        aria-label={`${longDay(day)}, ${plural(count, 'item')}${isGale ? ', gale' : ''}`}
        aria-expanded={isOpened}
        aria-current={isToday ? 'date' : undefined}
        onPress={() => onDay(day)}
        className="h-[24px] min-w-0 flex-1 flex-row items-center justify-between gap-1 rounded px-1 hover:bg-lagoon-wash"
      >
        <Text
          kind="day"
          numberOfLines={1}
          className={`${isToday ? 'font-extrabold text-lagoon' : isInMonth ? 'font-bold' : 'text-ink2'}`}
        >
          {date.day === 1 ? `1 ${monthName(date.month).slice(0, 3)}` : date.day}
        </Text>
        {isGale ? (
          <Text kind="fine" className="font-bold text-marigold" aria-hidden>
            gale
          </Text>
        ) : null}
      </Pressable>
      {more ? (
        <Pressable
          role="button"
          onPress={() => onDay(day)}
          className="h-[24px] min-w-[24px] items-center justify-center rounded px-1 hover:bg-lagoon-wash"
          aria-label={`${more} more on ${longDay(day)}`}
        >
          <Text kind="fine" className="font-bold text-lagoon">{`+${more}`}</Text>
        </Pressable>
      ) : null}
    </View>
  );
}

interface LessonsProps {
  lessons: readonly AgendaEntry[];
  viewer: Drawing['viewer'];
}

/** Says the lessons of a day in one line; the day, opened, has them one by one. */
function Lessons({ lessons, viewer }: LessonsProps) {
  const [only] = lessons;
  if (!only) return null;
  const starts = lessons.map(({ occurrence }) => occurrence.start);
  const ends = lessons.map(({ occurrence }) => occurrence.end ?? occurrence.start);
  const by = (list: typeof starts, order: 1 | -1) =>
    [...list].sort((a, b) => order * (instantIn(a, viewer) - instantIn(b, viewer)))[0]!;
  const from = clockTime(by(starts, 1), viewer);
  const words =
    lessons.length === 1
      ? `${only.occurrence.title}, ${from}`
      : `${plural(lessons.length, 'lesson')}, ${from} to ${clockTime(by(ends, -1), viewer)}`;
  return (
    <Text kind="fine" className="h-[18px] px-1 text-ink2" numberOfLines={1}>
      {words}
    </Text>
  );
}
