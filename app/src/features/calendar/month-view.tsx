import { entryId } from '@zephyrfield/core/view/entry';
import type { OccurrenceView } from '@zephyrfield/core/api/schemas';
import type { DayRow } from '@zephyrfield/core/view/days';
import { loadOf } from '@zephyrfield/core/view/load';
import { weekName, type TermWeek } from '@zephyrfield/core/view/term';
import { civilDate } from '@zephyrfield/core/time/civil';
import { plural } from '@zephyrfield/core/words/text';
import { longDay, monthName, today as dayOf, weekdayName } from '@zephyrfield/core/words/when';
import { Pressable, View } from 'react-native';
import { Mark } from '@/ui/slip-line';
import { Text } from '@/ui/text';
import { useIsWide } from '@/ui/use-is-wide';
import { slipOf, type Drawing } from './drawing';
import { useDayRows } from './use-day-rows';
import { WeekHead } from './week-head';
import { WideMonth } from './wide-month';

interface Props extends Drawing {
  shown: readonly OccurrenceView[];
  first: number;
  weeks: number;
  month: number;
  /** The day that is looked at */
  day: number;
  /** The day that is opened beside a wide month; null for none */
  opened: number | null;
  shelfFrom: number;
  termWeeks: readonly TermWeek[];
  weeksBy: 'term' | 'year';
  load: ReadonlyMap<number, number>;
  onDay(day: number): void;
}

/** A month as rows of weeks, each with its name and load. What does not fit in a day is counted. */
export function MonthView({ shown, first, weeks, day, opened, shelfFrom, ...rest }: Props) {
  const { now, viewer } = rest;
  const isWide = useIsWide();
  const rows = useDayRows(shown, first, weeks, 7, { now, viewer, shelfFrom });
  const today = dayOf(now, viewer);
  return isWide ? (
    <WideMonth {...rest} {...{ rows, today, opened }} />
  ) : (
    <NarrowMonth {...rest} {...{ rows, today, day }} />
  );
}

type NarrowProps = Omit<Props, 'shown' | 'first' | 'weeks' | 'opened' | 'shelfFrom'> & {
  rows: readonly DayRow[];
  today: number;
};

/** On a phone a week has its name in a line above it, so that the days have the width. */
function NarrowMonth({ rows, month, day, today, termWeeks, weeksBy, load, onDay, ...drawing }: NarrowProps) {
  return (
    <View className="min-h-0 flex-1" role="table" aria-label={`${monthName(month)} by weeks`}>
      <View className="flex-row border-b border-line pb-0.5" role="row">
        {rows[0]?.days.map((each) => (
          <View key={each.day} role="columnheader" className="flex-1 items-center">
            <Text kind="tight" className="font-bold" numberOfLines={1}>
              {weekdayName(each.day).slice(0, 2)}
            </Text>
          </View>
        ))}
      </View>
      <View className="min-h-0 flex-1 overflow-y-auto">
        {rows.map((row) => (
          <View key={row.first} role="row" className="min-h-[60px] grow border-b border-line">
            <WeekHead name={weekName(row.first, termWeeks, weeksBy)} minutes={loadOf(load, row.first, 7)} />
            <NarrowWeek {...{ row, today, month, day, onDay }} {...drawing} />
          </View>
        ))}
      </View>
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
              className={`min-h-[42px] flex-1 px-0.5 ${day === looked ? 'bg-lagoon-wash' : ''}`}
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
