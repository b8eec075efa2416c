import { itemPath } from '@zephyrfield/core/notify/links';
import { isHidden, type AgendaEntry } from '@zephyrfield/core/view/agenda';
import { JOIN_AHEAD } from '@zephyrfield/core/view/filter';
import { dayWord, loadByDay, loadShares } from '@zephyrfield/core/view/load';
import { hoursWords, away, clockTime, daysAway, longDay, weekdayName } from '@zephyrfield/core/words/when';
import { slipDetail, slipTime, wholeSlip } from '@zephyrfield/core/view/slips';
import { schoolTerm, termWeeks, weekName } from '@zephyrfield/core/view/term';
import { todayView, type TodayView } from '@zephyrfield/core/view/today';
import { changeWords } from '@zephyrfield/core/item/change';
import { plural } from '@zephyrfield/core/words/text';
import { civilDate, formatDate, startOfWeek } from '@zephyrfield/core/time/civil';
import { instantIn } from '@zephyrfield/core/time/when';
import { Link, router } from '@/router';
import PencilLine from 'lucide-react-native/icons/pencil-line';
import Video from 'lucide-react-native/icons/video';
import { useDeferredValue, useMemo, useState, type ReactNode } from 'react';
import { Linking, Pressable, ScrollView, View } from 'react-native';
import { problemOf } from '@/data/client';
import { useLearner, useSettings } from '@/data/learner';
import { useDraft } from '@/data/draft';
import { finish } from '@/data/layer';
import { useNotices } from '@/data/notices';
import { useNow } from '@/data/now';
import { useCalendars, useChanges, useItem, useOccurrences } from '@/data/queries';
import { useScreen } from '@/data/screen';
import { Barb } from '@/ui/barb';
import { Button, IconButton } from '@/ui/button';
import { WASH } from '@/ui/colours';
import { Contours } from '@/ui/contours';
import { Choice } from '@/ui/field';
import { Flag } from '@/ui/flag';
import { ProblemNotice } from '@/ui/notice';
import { Slip } from '@/ui/slip';
import { Text } from '@/ui/text';

/** How many of what comes are drawn at first, and more at each asking. */
const STEP = 60;

/**
 * Today in five seconds: the one next thing, where to be, what is due by tonight, what changed, what comes.
 */
export function TodayPlace() {
  const { learner, viewer } = useLearner()!;
  const settings = useSettings();
  const now = useNow();
  const calendars = useCalendars(learner.id);
  const occurrences = useOccurrences(learner.id, now);
  const changes = useChanges(learner.id);
  const hidden = useScreen((s) => s.hidden);
  const all = useMemo(() => {
    const set = new Set(hidden);
    return (occurrences.data ?? []).filter((o) => !isHidden(o, set));
  }, [occurrences.data, hidden]);
  const seen = useMemo(
    () => todayView(all, { now, viewer, ahead: settings.ahead }),
    [all, now, viewer, settings.ahead],
  );
  const byId = useMemo(() => new Map(calendars.data?.map((c) => [c.id, c])), [calendars.data]);
  const week = useMemo(() => {
    const term = learner.term ?? schoolTerm(occurrences.data, calendars.data, seen.day);
    return weekName(
      startOfWeek(seen.day, settings.firstDay),
      termWeeks(term, settings.firstDay, seen.day),
      settings.weeks,
    );
  }, [calendars.data, occurrences.data, learner.term, seen.day, settings.firstDay, settings.weeks]);
  const minutes = useMemo(
    () =>
      loadByDay(loadShares(all, { viewer, loads: settings.loads, shelfFrom: settings.shelfFrom })).get(
        seen.day,
      ) ?? 0,
    [all, viewer, settings.loads, settings.shelfFrom, seen.day],
  );
  const [course, setCourse] = useState('');
  const [most, setMost] = useState(STEP);
  // What is for now stands before what comes is drawn.
  const isWhole = useDeferredValue(true, false);

  const failure = calendars.error ?? occurrences.error;
  // While it is not known what there is, it is not said that there is nothing.
  const isKnown = occurrences.data !== undefined;
  const mayTick = learner.access !== 'look';
  const open = ({ occurrence }: AgendaEntry) =>
    router.push(itemPath(occurrence.itemId, occurrence.recurrenceId) as '/calendar');
  const slip = (entry: AgendaEntry, isUnderDay = true) => {
    const { occurrence } = entry;
    const calendar = byId.get(occurrence.calendarId);
    return (
      <Slip
        key={`${occurrence.itemId} ${occurrence.recurrenceId}`}
        {...wholeSlip(entry, calendar, viewer, { today: seen.day, isUnderDay })}
        chosen={false}
        onOpen={() => open(entry)}
        onFinish={mayTick ? () => void finish(learner.id, occurrence, !occurrence.finished) : undefined}
      />
    );
  };
  const date = civilDate(seen.day);
  const unseen = changes.data?.filter((c) => !c.seen) ?? [];
  const openDue = seen.due.filter((e) => e.urgency !== 'finished').length;
  const upcoming = seen.upcoming.filter((e) => !course || e.occurrence.calendarId === course);
  if (calendars.data?.length === 0) return <Empty mayEdit={learner.access === 'edit'} />;
  return (
    <ScrollView className="flex-1" contentContainerClassName="mx-auto w-full max-w-[1080px] px-4 pb-10 pt-3">
      <View className="flex-row items-start gap-3">
        <View className="flex-1">
          <Text kind="display" heading={1}>
            {weekdayName(seen.day)}
          </Text>
          {/* Two things in a line, or on a phone in two; nothing between them that could hang over. */}
          <View className="flex-row flex-wrap gap-x-3">
            <Text className="text-ink2">
              {longDay(seen.day).replace(`${weekdayName(seen.day)} `, '')} {date.year}
            </Text>
            <Text className="text-ink2">{week}</Text>
          </View>
        </View>
        <View className="items-end pt-3">
          {isKnown ? (
            <>
              <Barb minutes={minutes} size={40} />
              <Text kind="small">
                {minutes ? `${hoursWords(minutes)} of work, ${dayWord(minutes)}` : 'no work, calm'}
              </Text>
            </>
          ) : null}
        </View>
        {learner.access === 'edit' ? (
          <IconButton
            icon={PencilLine}
            label="Add an item"
            onPress={() => useDraft.getState().begin({ day: formatDate(seen.day) })}
            className="mt-2"
          />
        ) : null}
      </View>
      <ProblemNotice problem={failure && problemOf(failure)} />
      {occurrences.isPending ? (
        <View role="status" aria-label="Loading today" className="mt-4 h-24 rounded-xl bg-sheet" />
      ) : null}
      {isKnown ? (
        <View className="wide:flex-row wide:gap-8">
          <View className="min-w-0 wide:flex-1">
            {seen.next ? <Next next={seen.next} viewer={viewer} now={now} byId={byId} onOpen={open} /> : null}
            {seen.places.length + seen.notes.length ? (
              <Part title="Where to be" aside="">
                {[...seen.notes, ...seen.places].map((e) => slip(e))}
              </Part>
            ) : null}
            <Part
              title="Due by tonight"
              aside={seen.due.length ? `${openDue} open, ${seen.due.length - openDue} finished` : ''}
            >
              {seen.due.length ? (
                seen.due.map((e) => slip(e))
              ) : (
                <Text className="text-ink2">Nothing is due today.</Text>
              )}
            </Part>
            {seen.pastDue.length ? (
              <Part title="Past due" aside={plural(seen.pastDue.length, 'item')} isPastDue>
                {seen.pastDue.map((e) => slip(e, false))}
              </Part>
            ) : null}
          </View>
          <View className="min-w-0 wide:flex-1">
            {isWhole ? (
              <>
                {unseen.length ? (
                  <Part
                    title="Since you last looked"
                    aside={
                      <Link
                        href="/changes"
                        className="min-h-touch content-center font-text text-small font-bold text-lagoon underline"
                      >
                        {unseen.length > 5 ? `all ${unseen.length}` : 'look'}
                      </Link>
                    }
                  >
                    {unseen.slice(0, 5).map((change) => {
                      const calendar = byId.get(change.calendarId);
                      return (
                        <View key={change.id} className="flex-row items-center gap-2">
                          {calendar ? <Flag colour={calendar.colour} flag={calendar.flag} size={14} /> : null}
                          <Text className="flex-1">
                            <Text kind="strong">{change.title}</Text> {changeWords(change, viewer)}
                          </Text>
                        </View>
                      );
                    })}
                  </Part>
                ) : null}
                <Told />
                <Part title="Next up" aside={`${plural(settings.ahead, 'day')} ahead`}>
                  <Choice
                    label="Calendar"
                    value={course}
                    onChange={(e) => setCourse(e.currentTarget.value)}
                    options={[
                      { value: '', words: 'all calendars' },
                      ...(calendars.data ?? []).map((c) => ({ value: c.id, words: c.name })),
                    ]}
                  />
                  {upcoming.slice(0, most).map((e, i) => (
                    <View key={`${e.occurrence.itemId} ${e.occurrence.recurrenceId}`} className="gap-2">
                      {upcoming[i - 1]?.day === e.day ? null : (
                        <Text kind="label" className="pt-1">
                          {longDay(e.day)} <Text kind="small">{daysAway(e.day, seen.day)}</Text>
                        </Text>
                      )}
                      {slip(e)}
                    </View>
                  ))}
                  {upcoming.length > most ? (
                    <Button kind="quiet" onPress={() => setMost(most + STEP)} className="self-start">
                      {`${upcoming.length - most} more`}
                    </Button>
                  ) : null}
                  {upcoming.length === 0 ? <Text className="text-ink2">Nothing in these days.</Text> : null}
                </Part>
              </>
            ) : null}
          </View>
        </View>
      ) : null}
    </ScrollView>
  );
}

/** What one was told, as a count in words, and the way to the brief. */
function Told() {
  const unseen = useNotices().data?.unseen ?? 0;
  const link = 'min-h-touch content-center font-text text-small font-bold text-lagoon underline';
  return (
    <View className="flex-row flex-wrap gap-x-5 pt-3">
      <Link href="/notices" className={link}>
        {unseen ? `${plural(unseen, 'notice')} not seen yet` : 'All notices'}
      </Link>
      <Link href="/brief" className={link}>
        Day sheet
      </Link>
    </View>
  );
}

function Part({
  title,
  aside,
  isPastDue = false,
  children,
}: {
  title: string;
  aside: ReactNode;
  isPastDue?: boolean;
  children: ReactNode;
}) {
  return (
    <View role="group" aria-label={title} className="gap-2 pt-5">
      <View className="flex-row items-baseline justify-between gap-2">
        <Text kind="title" heading={2} className={isPastDue ? 'text-poppy' : ''}>
          {title}
        </Text>
        {typeof aside === 'string' ? <Text kind="small">{aside}</Text> : aside}
      </View>
      {children}
    </View>
  );
}

interface NextProps extends Pick<Parameters<typeof todayView>[1], 'now'> {
  next: NonNullable<TodayView['next']>;
  viewer: NonNullable<ReturnType<typeof useLearner>>['viewer'];
  byId: ReadonlyMap<
    string,
    { name: string; colour: keyof typeof WASH; flag: Parameters<typeof Flag>[0]['flag'] }
  >;
  onOpen(entry: AgendaEntry): void;
}

/** The one next thing, large; with the way into the meeting when it is near. */
function Next({ next: { entry, at, isUnderWay }, viewer, now, byId, onOpen }: NextProps) {
  const { occurrence } = entry;
  const calendar = byId.get(occurrence.calendarId);
  const item = useItem(occurrence.itemId, occurrence.recurrenceId);
  const meeting = item.data?.links.find((l) => l.role === 'meeting');
  const isNear = entry.urgency === null && instantIn(occurrence.start, viewer) - now < JOIN_AHEAD;
  return (
    <View role="group" aria-label="Next" className="gap-1 pt-4">
      <Text kind="small">{isUnderWay ? 'Now' : `Next, ${away(at, now)}`}</Text>
      <View className={`gap-2 rounded-xl p-3 ${calendar ? WASH[calendar.colour] : 'bg-sheet'}`}>
        <View className="flex-row justify-between gap-2">
          <Text kind="lead" className="font-display">
            {entry.urgency !== null && occurrence.due
              ? `due ${clockTime(occurrence.due, viewer)}`
              : slipTime(entry, viewer)}
          </Text>
          <Text kind="small">{slipDetail(entry, viewer)}</Text>
        </View>
        <View className="flex-row flex-wrap items-center gap-3">
          {calendar ? <Flag colour={calendar.colour} flag={calendar.flag} size={22} /> : null}
          <Pressable
            role="button"
            aria-label={`Open ${occurrence.title}`}
            onPress={() => onOpen(entry)}
            className="min-h-touch min-w-0 flex-1 justify-center"
          >
            <Text kind="title" numberOfLines={2} dir="auto">
              {occurrence.title}
            </Text>
          </Pressable>
          {meeting && isNear ? (
            <Button
              icon={Video}
              onPress={() => void Linking.openURL(meeting.href)}
              aria-label={`Join: ${meeting.label ?? meeting.href}`}
            >
              Join
            </Button>
          ) : null}
        </View>
      </View>
    </View>
  );
}

function Empty({ mayEdit }: { mayEdit: boolean }) {
  return (
    <View className="flex-1 gap-4 px-4 pt-6">
      <Text kind="display" heading={1}>
        Today
      </Text>
      <Text className="max-w-[520px]">No calendars yet. Follow a link to see what is due.</Text>
      {mayEdit ? (
        <Button onPress={() => router.push('/gather/follow')} className="self-start">
          Follow a link
        </Button>
      ) : null}
      <Contours height={160} />
    </View>
  );
}
