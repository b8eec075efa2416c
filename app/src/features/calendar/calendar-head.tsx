import {
  civilDate,
  dayNumber,
  daysInMonth,
  formatDate,
  parseDate,
  startOfWeek,
} from '@zephyrfield/core/time/civil';
import { weekName, type TermWeek } from '@zephyrfield/core/view/term';
import { daysWords, longDay, monthName, shortDay } from '@zephyrfield/core/words/when';
import ChevronLeft from 'lucide-react-native/icons/chevron-left';
import ChevronRight from 'lucide-react-native/icons/chevron-right';
import ListFilter from 'lucide-react-native/icons/list-filter';
import PencilLine from 'lucide-react-native/icons/pencil-line';
import { createElement, useContext, type ReactNode } from 'react';
import { Pressable, View } from 'react-native';
import { IconButton } from '@/ui/button';
import { Choices } from '@/ui/choices';
import { WayToOneself, Ways } from '@/ui/place-head';
import { Text } from '@/ui/text';
import { FIRST_DAY, LAST_DAY, VIEWS, isLookedAt, type Looking, type View as ViewName } from './use-look';

interface Props {
  looking: Looking;
  /** How much room there is, in pixels */
  width: number;
  today: number;
  firstDay: number;
  weeks: readonly TermWeek[];
  weeksBy: 'term' | 'year';
  filtersOpen: boolean;
  onFilters(): void;
  /** Writes something down for the day looked at; absent where the person may not */
  onWrite?: (() => void) | undefined;
  /** Says that there are changes */
  changes: ReactNode;
  /** The flag line with so many flags in it, with their names or without, and what is hidden by it */
  flags: ((named: boolean) => ReactNode) | null;
  /** What the flags take with their names, in pixels */
  namesTake: number;
  hidden: ReactNode;
  /** The term, by its weeks */
  ribbon: ReactNode;
}

/**
 * Width that the title (the longest there is), the steps and the views take in one row, and that of what is said beside the
 * flags, in pixels.
 */
const ROOM = 800;
const ROOM_FOR_ABOUT = 240;

/** What days are in sight, in words; moving between them, and between the views. */
export function CalendarHead({
  looking,
  width,
  today,
  firstDay,
  weeks,
  weeksBy,
  filtersOpen,
  onFilters,
  onWrite,
  changes,
  flags,
  namesTake,
  hidden,
  ribbon,
}: Props) {
  const { view, day, go } = looking;
  const { whose } = useContext(Ways);
  const thisYear = civilDate(today).year;
  const step = VIEW_WORDS[view];
  const roomy = width >= ROOM;
  const isNamed = width >= namesTake + ROOM_FOR_ABOUT;
  const week = startOfWeek(day, firstDay);
  const title = (
    <View className={roomy ? 'shrink-0' : 'min-w-[7rem] flex-1'}>
      <Text kind="title" heading={1} numberOfLines={roomy ? 1 : 2}>
        {roomy || view !== 'day' || civilDate(day).year !== thisYear
          ? titleOf(view, day, week, thisYear)
          : shortDay(day)}
      </Text>
    </View>
  );
  const about = (
    <View className={`flex-row items-center gap-x-3 ${roomy ? 'h-[24px]' : 'min-h-[24px] flex-wrap'}`}>
      {view === 'week' || view === 'day' ? (
        <Text kind="small" className="min-w-0 shrink" numberOfLines={1}>
          {weekName(week, weeks, weeksBy)}
        </Text>
      ) : null}
      <View className="shrink-0">{changes}</View>
      {hidden}
    </View>
  );
  const steps = (
    <View className="flex-row items-center">
      <IconButton
        icon={ChevronLeft}
        label={`Back one ${step}`}
        onPress={() => go({ day: moved(view, day, -1) })}
      />
      <Pressable
        role="button"
        onPress={() => go({ day: today })}
        className="min-h-touch justify-center rounded-lg px-1 hover:bg-lagoon-wash"
        aria-label="Go to today"
      >
        <Text kind="label" className="text-lagoon underline">
          Today
        </Text>
      </Pressable>
      <IconButton
        icon={ChevronRight}
        label={`Forward one ${step}`}
        onPress={() => go({ day: moved(view, day, 1) })}
      />
      <DateJump day={day} onDay={(to) => go({ day: to })} />
    </View>
  );
  const views = (
    <View className={`flex-row items-center ${roomy ? '' : 'min-w-0 flex-1 flex-wrap'}`}>
      <Choices label="View" all={VIEW_CHOICES} value={view} onChange={(to) => go({ view: to })} />
      {onWrite ? <IconButton icon={PencilLine} label="Add an item" onPress={onWrite} /> : null}
      <IconButton
        icon={ListFilter}
        label={filtersOpen ? 'Close the filters' : 'Filters'}
        aria-expanded={filtersOpen}
        onPress={onFilters}
      />
    </View>
  );
  if (roomy) {
    return (
      <View>
        <View className="flex-row items-center gap-1 px-4">
          {title}
          {steps}
          <View className="min-w-0 flex-1 items-center overflow-hidden px-2">{whose}</View>
          {views}
        </View>
        {ribbon}
        <View className="flex-row items-center gap-3 pr-4">
          <View className="min-w-0 flex-1">{flags?.(isNamed)}</View>
          {about}
        </View>
      </View>
    );
  }
  return (
    <View>
      {ribbon}
      <View className="pl-4 pr-1 pt-1">
        <View className="flex-row flex-wrap items-center">
          {title}
          {steps}
          <WayToOneself />
        </View>
        <View className="-ml-2 flex-row items-center justify-between">{views}</View>
        <View className="-ml-3">{flags?.(false)}</View>
        {about}
      </View>
    </View>
  );
}

const VIEW_CHOICES = VIEWS.map((view) => [view, view] as const);

const VIEW_WORDS: Record<ViewName, string> = { month: 'month', week: 'week', day: 'day', agenda: 'week' };

/** The day a step back or forward leads to. A month keeps its day where the next one has it. */
export function moved(view: ViewName, day: number, steps: 1 | -1): number {
  if (view === 'day') return day + steps;
  if (view !== 'month') return day + 7 * steps;
  const { year, month, day: d } = civilDate(day);
  return dayNumber(year, month + steps, Math.min(d, daysInMonth(year, month + steps)));
}

function titleOf(view: ViewName, day: number, week: number, thisYear: number): string {
  const { year, month } = civilDate(day);
  if (view === 'week') return daysWords(week, week + 6, thisYear);
  if (view === 'day') return longDay(day, thisYear);
  return `${monthName(month)} ${year}`;
}

/** A jump to any date: the browser's own field, which every keyboard and screen reader knows. */
function DateJump({ day, onDay }: { day: number; onDay(day: number): void }) {
  return createElement('input', {
    type: 'date',
    'aria-label': 'Go to a date',
    value: formatDate(day),
    min: formatDate(FIRST_DAY),
    max: formatDate(LAST_DAY),
    onChange: (e: { currentTarget: HTMLInputElement }) => {
      const to = parseDate(e.currentTarget.value);
      // A year that is being typed is 2, then 20, then 202.
      if (isLookedAt(to)) onDay(to);
    },
    className: 'date-jump',
  });
}
