import { suffices } from '@zephyrfield/core/item/access';
import { keyOf } from '@zephyrfield/core/item/occurrence';
import { slotOfItem } from '@zephyrfield/core/item/open-time';

import { agendaEntry, aimEntry, entryId, type AgendaEntry } from '@zephyrfield/core/view/entry';
import { civilDate, formatDate, startOfWeek } from '@zephyrfield/core/time/civil';
import { sharedCalendars } from '@zephyrfield/core/view/shared';
import { monthWeeks } from '@zephyrfield/core/view/days';
import { firstName, plural } from '@zephyrfield/core/words/text';
import { today as dayOf } from '@zephyrfield/core/words/when';
import { Link, router } from '@/router';
import { useEffect, useMemo, useRef, useState } from 'react';
import { View, type View as RNView } from 'react-native';
import { problemOf } from '@/data/client';
import { useShown, useSettings } from '@/data/learner';
import { useNow } from '@/data/now';
import { useDraft } from '@/data/draft';
import { useOpenSitting } from '@/data/open-sitting';
import { finish } from '@/data/layer';
import { moves } from '@/data/moves';
import { REACH } from '@zephyrfield/core/view/near';
import { useChanges, type DrawnCalendar } from '@/data/queries';
import { useScreen } from '@/data/screen';
import { Button } from '@/ui/button';
import { Contours } from '@/ui/contours';
import { ProblemNotice } from '@/ui/notice';
import { Text } from '@/ui/text';
import { SkipLink } from '@/ui/skip-link';
import { followNext, followSlip } from '@/ui/slip-focus';
import { useEscape } from '@/ui/use-escape';
import { useIsWide } from '@/ui/use-is-wide';
import { lazyComponent } from '@/ui/lazy';
import { AgendaHead } from './agenda-head';
import { CalendarHead, moved } from './calendar-head';
import { DragArea } from './drag';
import { DayLists } from './day-lists';
import { WideDay } from './day-place';
import type { Drawing } from './drawing';
import { FilterBar } from './filter-bar';
import { AgendaList } from './agenda-list';
import { FlagLine, HiddenLine, namesTake } from './flag-line';
import { BusySheet } from './busy-sheet';
import { ItemSheet } from './item-sheet';
import { KeyList } from './key-list';
import { useFolded } from './use-folded';
import { MonthPlace } from './month-place';
import { TermRibbon } from './term-ribbon';
import { TimeGrid } from './time-grid';
import { useKeys } from './use-keys';
import { VIEWS, useLook, type Looking } from './use-look';
import { useScene, type Scene } from './use-scene';
import { elementOf } from '@/ui/element';

const QuickLook = lazyComponent(() => import('./quick-look').then((m) => m.QuickLook), 'aid');
const Swipe = lazyComponent(() => import('@/ui/gestures').then((m) => m.Swipe), 'aid');

/** First and last day a view covers. */
function daysInSight(
  { view, day }: Pick<Looking, 'view' | 'day'>,
  firstDay: number,
): { first: number; last: number } {
  if (view === 'day') return { first: day, last: day };
  const week = startOfWeek(day, firstDay);
  if (view !== 'month') return { first: week, last: week + 6 };
  const { year, month } = civilDate(day);
  const { first, weeks } = monthWeeks(year, month, firstDay);
  return { first, last: first + weeks * 7 - 1 };
}

/**
 * How many pieces further than usual the agenda is read, and the most there is to read: occurrences are
 * stored that far.
 */
interface Reach {
  back: number;
  ahead: number;
}
const FARTHEST: Reach = { back: 3, ahead: 3 };

function reached(days: { first: number; last: number }, { back, ahead }: Reach, today: number) {
  return {
    first: back ? Math.min(days.first, today - REACH.back - back * REACH.piece) : days.first,
    last: ahead ? Math.max(days.last, today + REACH.ahead + ahead * REACH.piece) : days.last,
  };
}

/**
 * The Calendar place: month, week, day and agenda under the term and the flags, with a sheet beside or over
 * them.
 */
export function CalendarPlace() {
  const { learner, viewer } = useShown()!;
  const settings = useSettings();
  const now = useNow();
  const today = dayOf(now, viewer);
  const looking = useLook(today);
  const { view, day, filters, item, go } = looking;
  const days = daysInSight(looking, settings.firstDay);
  const [reach, setReach] = useState<Reach>({ back: 0, ahead: 0 });
  const scene = useScene(looking, view === 'agenda' ? reached(days, reach, today) : days);
  const box = useRef<RNView>(null);
  const changes = useChanges(learner.id);
  const [filtersOpen, setFiltersOpen] = useState<false | 'key' | 'press'>(false);
  const [keysOpen, setKeysOpen] = useState(false);
  const [width, setWidth] = useState(0);
  const byId = useMemo(() => new Map(scene.calendars?.map((c) => [c.id, c])), [scene.calendars]);
  const opened = item && scene.shown.find((o) => o.itemId === item.id && o.busy);
  const busy = opened ? agendaEntry(opened, now, viewer) : null;
  const slot = item && slotOfItem(item.id);
  useEffect(() => {
    if (slot) router.replace(`/open-times?slot=${encodeURIComponent(slot)}`);
  }, [slot]);
  const unseen = changes.data?.filter((c) => !c.seen).length ?? 0;
  const failure = scene.error;
  const mayTick = suffices(learner.access, 'tick');
  const mayEdit = suffices(learner.access, 'edit');
  const { move, stretch } = moves(learner.id, viewer);

  // An aim's slip stands for the same item as its due date's.
  const entryOf = (id: string) => {
    const occurrence = scene.shown.find((o) => id.replace(/ aim$/, '') === keyOf(o));
    const entry = occurrence && agendaEntry(occurrence, now, viewer);
    return entry && id.endsWith(' aim') ? (aimEntry(entry, viewer) ?? entry) : entry;
  };
  const flags = useMemo(() => sharedCalendars(scene.calendars ?? []), [scene.calendars]);
  useKeys({
    back: () => go({ day: moved(view, day, -1) }),
    forward: () => go({ day: moved(view, day, 1) }),
    today: () => go({ day: today }),
    closer: () => go({ view: VIEWS[Math.min(VIEWS.length - 1, VIEWS.indexOf(view) + 1)]! }),
    further: () => go({ view: VIEWS[Math.max(0, VIEWS.indexOf(view) - 1)]! }),
    filters: () => setFiltersOpen('key'),
    flag: (index, just) => {
      const ids = flags[index]?.ids;
      if (!ids) return;
      const all = flags.flatMap((f) => f.ids);
      just ? useScreen.getState().justOne(ids, all) : useScreen.getState().toggle(ids);
    },
    help: () => setKeysOpen(true),
    move: (id, by) => {
      const entry = entryOf(id);
      if (!entry || !mayEdit) return;
      // Of work from a feed it is the aim that moves, and the focus goes along with it.
      const plain = entryId({ ...entry, isAim: false });
      followSlip(entry.urgency !== null && !entry.occurrence.own ? [`${plain} aim`, plain] : [plain]);
      void move(entry, { day: entry.day + by });
    },
  });

  const folded = useFolded(box, width > 0 && width < 700);
  useEscape(() => setFiltersOpen(false), filtersOpen !== false);
  const drawing: Drawing = {
    byId,
    now,
    viewer,
    chosen: item,
    onOpen: ({ occurrence }) =>
      occurrence.sitting
        ? useOpenSitting.getState().open(occurrence.sitting)
        : looking.open(occurrence.itemId, occurrence.recurrenceId),
  };
  const onFinish = mayTick
    ? (entry: AgendaEntry) => {
        followNext(entryId(entry));
        void finish(learner.id, entry.occurrence, !entry.occurrence.finished);
      }
    : undefined;
  const empty = scene.calendars?.length === 0;
  const further = (which: keyof Reach) =>
    setReach((r) => (r[which] < FARTHEST[which] ? { ...r, [which]: r[which] + 1 } : r));
  return (
    <View className="flex-1 flex-row">
      <View className="min-w-0 flex-1 overflow-y-auto" onLayout={(e) => setWidth(e.nativeEvent.layout.width)}>
        {scene.calendars?.length ? (
          <SkipLink words="Skip to the days" onPress={() => elementOf(box.current)?.focus()} />
        ) : null}
        <CalendarHead
          looking={looking}
          width={width}
          today={today}
          firstDay={settings.firstDay}
          weeks={scene.weeks}
          weeksBy={settings.weeks}
          filtersOpen={filtersOpen !== false}
          onFilters={() => setFiltersOpen(filtersOpen ? false : 'press')}
          onWrite={
            mayEdit && scene.calendars?.length
              ? () => useDraft.getState().begin(learner.id, { day: formatDate(day) })
              : undefined
          }
          changes={
            unseen ? (
              <Link
                href="/changes"
                aria-label={`${plural(unseen, 'change')} since you looked`}
                className="min-h-[24px] content-center font-text text-small font-bold text-lagoon underline"
              >
                {width >= 500 ? `${plural(unseen, 'change')} since you looked` : plural(unseen, 'change')}
              </Link>
            ) : null
          }
          ribbon={
            scene.calendars?.length ? (
              <TermRibbon
                weeks={scene.ribbon}
                byId={byId}
                today={today}
                first={days.first}
                last={days.last}
                folded={folded}
                onWeek={(start) => go({ day: today >= start && today < start + 7 ? today : start })}
              />
            ) : null
          }
          namesTake={namesTake(flags)}
          flags={
            scene.calendars?.length
              ? (named) => <FlagLine flags={flags} open={scene.agenda.open} named={named} mayAdd={mayEdit} />
              : null
          }
          hidden={
            scene.calendars?.length ? (
              <HiddenLine
                hidden={scene.agenda.hidden}
                ids={scene.hidden}
                calendars={scene.calendars}
                brief={width < 500}
              />
            ) : null
          }
        />
        <FilterBar
          filters={filters}
          count={scene.shown.length}
          open={filtersOpen}
          onChange={(next) => looking.change({ filters: next })}
        />
        {failure ? (
          <View className="px-4 py-2">
            <ProblemNotice problem={problemOf(failure)} />
          </View>
        ) : null}
        {scene.isPending ? <Waiting /> : null}
        {empty ? <Empty mayEdit={mayEdit} name={learner.name} /> : null}
        {scene.calendars?.length && scene.isKnown && !scene.isPending ? (
          <View ref={box} tabIndex={-1} className="min-h-[20rem] flex-1 overflow-hidden short:min-h-[560px]">
            <DragArea
              may={mayEdit}
              byId={byId}
              onMove={(entry, to) => void move(entry, to)}
              onStretch={stretch}
            >
              <InView
                looking={looking}
                width={width}
                scene={scene}
                today={today}
                drawing={drawing}
                onFinish={onFinish}
                onFurther={further}
                onWrite={
                  mayEdit
                    ? (day, minute) => useDraft.getState().begin(learner.id, { day: formatDate(day), minute })
                    : undefined
                }
              />
            </DragArea>
            {view === 'agenda' ? null : (
              <Swipe
                over={box}
                onLeft={() => go({ day: moved(view, day, 1) })}
                onRight={() => go({ day: moved(view, day, -1) })}
              />
            )}
            <QuickLook within={box} entryOf={entryOf} byId={byId} now={now} viewer={viewer} />
          </View>
        ) : null}
      </View>
      {item && busy ? (
        <BusySheet
          entry={busy}
          name={nameOf(byId.get(busy.occurrence.calendarId), learner)}
          viewer={viewer}
          onClose={looking.close}
        />
      ) : item && !slot && scene.calendars ? (
        <ItemSheet
          key={`${item.id} ${item.recurrenceId}`}
          id={item.id}
          recurrenceId={item.recurrenceId}
          learnerId={learner.id}
          mayTick={mayTick}
          mayEdit={mayEdit}
          calendars={scene.calendars}
          now={now}
          viewer={viewer}
          onClose={looking.close}
        />
      ) : null}
      {keysOpen ? <KeyList onClose={() => setKeysOpen(false)} /> : null}
    </View>
  );
}

/** Tells whose a calendar is, by their first name. */
const nameOf = (calendar: DrawnCalendar | undefined, learner: { name: string }): string =>
  firstName(calendar?.whose?.name ?? learner.name);

interface InViewProps {
  looking: Looking;
  scene: Scene;
  today: number;
  drawing: Drawing;
  onFinish: ((entry: AgendaEntry) => void) | undefined;
  onFurther(which: 'back' | 'ahead'): void;
  /** In pixels; a sheet beside it takes some away */
  width: number;
  /** An empty place was pressed: something is to be written down there */
  onWrite: ((day: number, minute: number | null) => void) | undefined;
}

/** From this width on an opened day lies over a month, and work due beside the hours of a day; with a sheet open it gives way. */
const ROOM_FOR_DAY = 700;

/** The days in sight, in the view that is chosen. */
function InView({ looking, width, scene, today, drawing, onFinish, onFurther, onWrite }: InViewProps) {
  const { view, day, go } = looking;
  const { firstDay, shelfFrom, dayFrom, dayTo, weeks: weeksBy } = useSettings();
  const wide = useIsWide();
  const { shown, load } = scene;
  const grid = {
    shown,
    shelfFrom,
    dayFrom,
    dayTo,
    load,
    onWrite,
    onDay: (to: number) => go({ view: 'day', day: to }),
  };
  switch (view) {
    case 'month':
      return (
        <MonthPlace
          {...{ looking, scene, shelfFrom, firstDay, weeksBy, drawing }}
          hasRoom={width >= ROOM_FOR_DAY}
          onFinish={onFinish}
        />
      );
    case 'week': {
      const first = startOfWeek(day, firstDay);
      return wide ? (
        <TimeGrid first={first} columns={7} {...grid} {...drawing} />
      ) : (
        <DayLists
          first={first}
          count={7}
          shown={shown}
          shelfFrom={shelfFrom}
          load={load}
          onFinish={onFinish}
          {...drawing}
        />
      );
    }
    case 'day':
      return wide && width >= ROOM_FOR_DAY ? (
        <WideDay day={day} onFinish={onFinish} {...grid} {...drawing} />
      ) : (
        <TimeGrid first={day} columns={1} {...grid} {...drawing} />
      );
    case 'agenda':
      return (
        <>
          <AgendaHead group={looking.group} span={looking.span} onChange={looking.change} />
          <AgendaList
            agenda={scene.agenda}
            group={looking.group}
            span={looking.span}
            from={day === today ? null : day}
            onFinish={onFinish}
            onFurther={onFurther}
            {...drawing}
          />
        </>
      );
  }
}

/** The shape of what is coming, while it is on its way. */
function Waiting() {
  return (
    <View role="status" aria-label="Loading the calendars" className="gap-3 px-4 pt-6">
      {[0, 1, 2, 3, 4].map((i) => (
        <View key={i} className="h-[68px] flex-row overflow-hidden rounded-lg bg-sheet">
          <View className="w-[5px] bg-line" />
          <View className="flex-1" />
          <View className="bg-line/50 w-[96px]" />
        </View>
      ))}
    </View>
  );
}

function Empty({ mayEdit, name }: { mayEdit: boolean; name: string }) {
  return (
    <View className="flex-1 gap-4 px-4 pt-6">
      <Text kind="title" heading={2}>
        No calendar yet
      </Text>
      <Text className="max-w-[520px]">
        {mayEdit
          ? 'Follow each course’s calendar link once. Then everything that is due shows up here.'
          : `${name} has no calendars yet.`}
      </Text>
      {mayEdit ? (
        <Button onPress={() => router.push('/gather/follow')} className="self-start">
          Follow a link
        </Button>
      ) : null}
      <Contours height={160} />
    </View>
  );
}
