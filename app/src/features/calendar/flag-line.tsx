import type { CalendarView } from '@zephyrfield/core/api/schemas';
import type { Agenda } from '@zephyrfield/core/view/agenda';
import type { FlagPlace } from '@zephyrfield/core/view/shared';
import { plural } from '@zephyrfield/core/words/text';
import { memo, useRef } from 'react';
import { Pressable, ScrollView, View } from 'react-native';
import type { DrawnCalendar } from '@/data/queries';
import { areHidden, useScreen, type Screen } from '@/data/screen';
import { Link } from '@/router';
import { WhoseMark } from '@/ui/cleat';
import { Flag } from '@/ui/flag';
import { Text } from '@/ui/text';

interface Props {
  flags: readonly FlagPlace<DrawnCalendar>[];
  /** Open work per calendar */
  open: ReadonlyMap<string, number>;
  /** There is room for their names */
  named: boolean;
  /** Calendars can be added */
  mayAdd: boolean;
}

/**
 * About what the flags take with their names in one row, in pixels: a flag, a count, the gaps, seven a letter; a long name
 * may be cut.
 */
export const namesTake = (flags: readonly FlagPlace<DrawnCalendar>[]): number =>
  flags.reduce(
    (sum, { calendar: { name, ownName = name, whose } }) =>
      sum + (whose ? 82 : 58) + 7 * Math.min(9, ownName.length),
    130,
  );

/**
 * The calendars' flags in one row, what several learners have once. A press hides or shows; a long or double press leaves
 * just that one.
 */
export function FlagLine({ flags, open, named, mayAdd }: Props) {
  const { hidden, toggle, justOne } = useScreen();
  const all = flags.flatMap((f) => f.ids);
  // The first press of a double one has toggled already; "just this" starts from what was there before it.
  const last = useRef<{ id: string; before: Pick<Screen, 'hidden' | 'beforeJustOne'> } | null>(null);
  const press = (ids: readonly string[], clicks: number) => {
    const id = ids[0]!;
    // What counts as a double press is the platform's to say (and the person's to set there).
    if (last.current?.id === id && clicks === 2) {
      useScreen.setState(last.current.before);
      justOne(ids, all);
      last.current = null;
    } else {
      const { hidden, beforeJustOne } = useScreen.getState();
      last.current = { id, before: { hidden, beforeJustOne } };
      toggle(ids);
    }
  };
  const only = (ids: readonly string[]) => justOne(ids, all);
  const switches = flags.map(({ calendar, ids }) => (
    <FlagSwitch
      key={calendar.id}
      calendar={calendar}
      ids={ids}
      count={ids.reduce((sum, id) => sum + (open.get(id) ?? 0), 0)}
      isHidden={areHidden(ids, hidden)}
      named={named}
      onPress={press}
      onJustOne={only}
    />
  ));
  const more = mayAdd ? (
    <Link
      href="/gather"
      className="min-h-touch content-center self-center whitespace-nowrap px-1.5 font-text text-small font-bold text-lagoon underline"
    >
      add a calendar
    </Link>
  ) : null;
  if (named)
    return (
      <View className="flex-row gap-1 px-3">
        {switches}
        {more}
      </View>
    );
  return (
    <ScrollView
      horizontal
      showsHorizontalScrollIndicator={false}
      className="flex-grow-0"
      contentContainerClassName="gap-1 px-3 py-0.5 wide:py-0"
    >
      {/* What the numbers count, said once where there is no room to say it with each. */}
      <Text kind="small" className="self-end pb-1.5 pl-1" aria-hidden>
        open
      </Text>
      {switches}
      {more}
    </ScrollView>
  );
}

interface SwitchProps {
  calendar: DrawnCalendar;
  /** Ids of all calendars that it stands for */
  ids: readonly string[];
  count: number;
  isHidden: boolean;
  named: boolean;
  onPress(ids: readonly string[], clicks: number): void;
  onJustOne(ids: readonly string[]): void;
}

/** One calendar's flag; by itself, so that a press draws this one anew and not all. */
const FlagSwitch = memo(function FlagSwitch({
  calendar,
  ids,
  count,
  isHidden,
  named,
  onPress,
  onJustOne,
}: SwitchProps) {
  return (
    <Pressable
      role="switch"
      aria-checked={!isHidden}
      aria-label={`${calendar.name}, ${count} open${isHidden ? ', hidden' : ''}`}
      title={`${calendar.name}: press to ${isHidden ? 'show' : 'hide'}, double press for just this one`}
      // A key has no number of clicks.
      onPress={(e) => onPress(ids, (e.nativeEvent as unknown as UIEvent | undefined)?.detail ?? 1)}
      onLongPress={() => onJustOne(ids)}
      delayLongPress={650}
      // A double press would select a word, and a press that selects is none.
      className={`min-h-touch select-none items-center justify-center rounded-lg hover:bg-lagoon-wash ${named ? 'min-w-0 shrink flex-row gap-1.5 px-1' : 'min-w-[54px] gap-1 px-1.5'}`}
    >
      <Flag colour={calendar.colour} flag={calendar.flag} size={named ? 14 : 17} struck={isHidden} />
      {named ? (
        <>
          <Text
            kind="small"
            numberOfLines={1}
            className={`min-w-0 shrink ${isHidden ? 'line-through' : 'text-ink'}`}
          >
            {calendar.ownName ?? calendar.name}
          </Text>
          <WhoseMark whose={calendar.whose} />
          {count ? <Text kind="fine">{count}</Text> : null}
        </>
      ) : (
        <View className="flex-row gap-1">
          <WhoseMark whose={calendar.whose} />
          <Text kind="small" className={isHidden ? 'line-through' : 'text-ink'}>
            {calendar.flag.letters} {count}
          </Text>
        </View>
      )}
    </Pressable>
  );
});

interface HiddenProps {
  /** What is hidden of what would be in sight */
  hidden: Agenda['hidden'];
  /** Ids of what is hidden, as far as the view has followed */
  ids: ReadonlySet<string>;
  calendars: readonly CalendarView[];
  /** There is little room for words */
  brief: boolean;
}

/**
 * Says what is hidden, since a hidden calendar is a missed deadline; and brings it back. It always stands
 * there, so that nothing moves when a flag is pressed, and is heard when it changes.
 */
export function HiddenLine({ hidden: { due, other, single }, ids, calendars, brief }: HiddenProps) {
  const showAll = useScreen((s) => s.showAll);
  const struck = calendars.filter((c) => ids.has(c.id));
  const whole =
    [due ? plural(due, 'due item') : null, other ? plural(other, 'other item') : null]
      .filter(Boolean)
      .join(' and ') || 'nothing open';
  const singles = single ? `${plural(single, 'single item')} hidden` : '';
  const short =
    [due ? `${due} due` : null, other ? `${other} other` : null].filter(Boolean).join(', ') || 'nothing open';
  const names =
    struck.length <= 2 ? struck.map((c) => c.name).join(' and ') : plural(struck.length, 'calendar');
  return (
    <View className="shrink flex-row flex-wrap items-center gap-x-2">
      <View role="status">
        <Text
          kind="small"
          className={
            struck.length
              ? `font-bold text-marigold ${brief ? 'sr-only' : ''}`
              : single
                ? 'font-bold text-marigold'
                : ''
          }
        >
          {struck.length
            ? `${whole} hidden with ${names}${single ? `, ${plural(single, 'single item')}` : ''}`
            : singles || 'All shown'}
        </Text>
        {struck.length && brief ? (
          <Text kind="small" className="font-bold text-marigold" aria-hidden>
            {short}
            {single ? `, ${single} single` : ''} hidden
          </Text>
        ) : null}
      </View>
      {struck.length ? (
        <Pressable
          role="button"
          onPress={() => showAll(calendars.map((c) => c.id))}
          className="min-h-[24px] justify-center"
        >
          <Text kind="small" className="font-bold text-lagoon underline">
            Show all
          </Text>
        </Pressable>
      ) : null}
      {single ? (
        <Link
          href="/hidden"
          className="min-h-[24px] content-center font-text text-small font-bold text-lagoon underline"
        >
          list
        </Link>
      ) : null}
    </View>
  );
}
