import { suffices } from '@zephyrfield/core/item/access';
import type { NoticeView } from '@zephyrfield/core/api/notify';
import type { CalendarView } from '@zephyrfield/core/api/schemas';
import { snoozeTimes } from '@zephyrfield/core/notify/settings';
import { noticePath } from '@zephyrfield/core/notify/links';
import { clockTime, longDay, shortWhen, today as dayOf } from '@zephyrfield/core/words/when';
import { dayIn, instantIn, instantOf } from '@zephyrfield/core/time/when';
import { UTC } from '@zephyrfield/core/time/zone';
import { firstName } from '@zephyrfield/core/words/text';
import { Link, router } from '@/router';
import Check from 'lucide-react-native/icons/check';
import { useState } from 'react';
import { Pressable, ScrollView, View } from 'react-native';
import { askBrowser, browserState } from '@/data/browser-notices';
import { call, problemOf } from '@/data/client';
import { useUndo } from '@/data/undo';
import { useLearner } from '@/data/learner';
import { finish } from '@/data/layer';
import {
  changeNoticeSettings,
  refreshNotices,
  seeNotices,
  snooze,
  useNotices,
  useNoticeSettings,
} from '@/data/notices';
import { useNow } from '@/data/now';
import { useCalendars, useOccurrences } from '@/data/queries';
import { Button } from '@/ui/button';
import { Contours } from '@/ui/contours';
import { Choice } from '@/ui/field';
import { Flag } from '@/ui/flag';
import { HiddenHere } from '@/ui/hidden-here';
import { Notice, ProblemNotice } from '@/ui/notice';
import { Text } from '@/ui/text';
import { MomentField } from '@/ui/date-field';

/**
 * What the person was told, what they have not seen first, by day; each can be dealt with where it stands.
 */
export function NoticesPlace() {
  const { viewer } = useLearner()!;
  const now = useNow();
  const notices = useNotices();
  const noticeSettings = useNoticeSettings();
  const list = notices.data?.notices ?? [];
  const unseen = list.filter((n) => !n.seen);
  const seen = list.filter((n) => n.seen);
  const asks =
    browserState() === 'unasked' &&
    Boolean(
      noticeSettings.data &&
      Object.values(noticeSettings.data.noticeSettings.all).some((channels) => channels.includes('browser')),
    );
  const [, setAsked] = useState('');
  const failure = notices.error;
  return (
    <ScrollView
      className="flex-1"
      contentContainerClassName="mx-auto w-full max-w-[760px] gap-4 px-4 pb-10 pt-3"
    >
      <View className="flex-row flex-wrap items-end justify-between gap-2">
        <View>
          <Text kind="display" heading={1}>
            Notices
          </Text>
          <Text className="text-ink2">{unseen.length ? `${unseen.length} not seen yet` : 'All seen'}</Text>
        </View>
        <View className="shrink flex-row flex-wrap gap-x-4">
          {unseen.length ? (
            <Button kind="second" icon={Check} onPress={() => void seeNotices(unseen.map((n) => n.id))}>
              Mark all as seen
            </Button>
          ) : null}
          <Link
            href="/notice-settings"
            className="min-h-touch content-center font-text text-small font-bold text-lagoon underline"
          >
            Notice settings
          </Link>
        </View>
      </View>
      <ProblemNotice problem={failure && problemOf(failure)} />
      <Silent now={now} />
      {asks ? (
        <Notice kind="warning" title="Show notifications in this browser too?">
          <View className="gap-2">
            <Text>They appear while Zephyrfield is open, even behind other windows.</Text>
            <Button kind="second" className="self-start" onPress={() => void askBrowser().then(setAsked)}>
              Allow notifications
            </Button>
          </View>
        </Notice>
      ) : null}
      {notices.isPending ? (
        <View role="status" aria-label="Loading the notices" className="h-24 rounded-xl bg-sheet" />
      ) : null}
      <Days list={unseen} title="Not seen yet" now={now} viewer={viewer} />
      <Days list={seen} title={unseen.length ? 'Seen' : ''} now={now} viewer={viewer} />
      {!notices.isPending && list.length === 0 ? (
        <View className="gap-4 pt-4">
          <Text>No notices yet. Reminders, new work and moved dates will show up here.</Text>
          <Contours height={140} />
        </View>
      ) : null}
    </ScrollView>
  );
}

/** Says how many single items one has hidden: nothing reminds of them. */
function Silent({ now }: { now: number }) {
  const { learner } = useLearner()!;
  const held = useOccurrences(learner.id, now).data?.filter(
    (o) => o.hidden && instantIn(o.end ?? o.due ?? o.start, UTC) > now,
  );
  return <HiddenHere held={held ?? []} nameOf={() => ''} />;
}

type Viewer = NonNullable<ReturnType<typeof useLearner>>['viewer'];

function Days({
  list,
  title,
  now,
  viewer,
}: {
  list: readonly NoticeView[];
  title: string;
  now: number;
  viewer: Viewer;
}) {
  if (!list.length) return null;
  const days = new Map<number, NoticeView[]>();
  for (const n of list) {
    const day = dayIn(instantOf(Date.parse(n.at)), viewer);
    days.set(day, [...(days.get(day) ?? []), n]);
  }
  return (
    <View role="group" aria-label={title || 'Seen'} className="gap-3">
      {title ? (
        <Text kind="title" heading={2}>
          {title}
        </Text>
      ) : null}
      {[...days].map(([day, notices]) => (
        <View key={day} className="gap-2">
          <Text kind="label" heading={title ? 3 : 2}>
            {day === dayOf(now, viewer) ? 'Today' : longDay(day)}
          </Text>
          {notices.map((n) => (
            <One key={n.id} notice={n} now={now} viewer={viewer} />
          ))}
        </View>
      ))}
    </View>
  );
}

const MANY = 'min-h-touch justify-center px-2';

/** One notice, with what can be done about it. */
function One({ notice, now, viewer }: { notice: NoticeView; now: number; viewer: Viewer }) {
  const { learner, learners } = useLearner()!;
  const of = learners.find((l) => l.id === notice.learnerId);
  const calendar = useCalendars(notice.learnerId).data?.find((c) => c.id === notice.calendarId);
  const [later, setLater] = useState(false);
  const { id, title, line, at, seen, finished, snoozedUntil, itemId, recurrenceId, kind } = notice;
  const open = () => {
    void seeOne(notice);
    router.push(noticePath(notice));
  };
  const done = async () => {
    try {
      const { occurrence } = await call('item', { params: { id: itemId! }, query: { recurrenceId } });
      await finish(notice.learnerId, occurrence, true);
    } catch (error) {
      useUndo.getState().failed(error);
    }
    await refreshNotices();
  };
  const mayTick = of && suffices(of.access, 'tick');
  return (
    <View
      role="group"
      aria-label={title}
      className={`rounded-xl bg-sheet px-3 pt-2 shadow-sm ${seen ? '' : 'border-l-4 border-lagoon'}`}
    >
      <View className="flex-row items-center gap-2">
        {calendar ? <Flag colour={calendar.colour} flag={calendar.flag} size={14} /> : null}
        <Text kind="small" className="flex-1" numberOfLines={1}>
          {[learners.length > 1 && of ? firstName(of.name) : null, calendar?.name]
            .filter(Boolean)
            .join(' · ')}
        </Text>
        <Text kind="small">{clockTime(instantOf(Date.parse(at)), viewer)}</Text>
      </View>
      <Text kind="strong" className={finished ? 'text-ink2 line-through' : ''} dir="auto">
        {title}
      </Text>
      <Text className={kind === 'pastDue' && !finished ? 'text-poppy' : 'text-ink2'}>{line}</Text>
      {snoozedUntil ? (
        <Text kind="small">Snoozed until {shortWhen(instantOf(Date.parse(snoozedUntil)), viewer)}.</Text>
      ) : null}
      <View className="-ml-2 flex-row flex-wrap">
        <Pressable role="link" aria-label={`Open ${title}`} onPress={open} className={MANY}>
          <Text kind="label" className="text-lagoon underline">
            {notice.sheet ? 'Read it' : 'Open'}
          </Text>
        </Pressable>
        {itemId && notice.isWork && mayTick && !finished && notice.learnerId === learner.id ? (
          <Pressable
            role="button"
            aria-label={`Finish ${title}`}
            onPress={() => void done()}
            className={MANY}
          >
            <Text kind="label" className="text-lagoon underline">
              Finish
            </Text>
          </Pressable>
        ) : null}
        {finished ? null : (
          <Pressable
            role="button"
            aria-expanded={later}
            aria-label={`Snooze or mute ${title}`}
            onPress={() => setLater(!later)}
            className={MANY}
          >
            <Text kind="label" className="text-lagoon underline">
              Snooze
            </Text>
          </Pressable>
        )}
        {seen ? null : (
          <Pressable
            role="button"
            aria-label={`Seen: ${title}`}
            onPress={() => void seeOne(notice)}
            className={MANY}
          >
            <Text kind="label" className="text-lagoon underline">
              Seen
            </Text>
          </Pressable>
        )}
      </View>
      {later ? (
        <Later
          key={id}
          notice={notice}
          calendar={calendar}
          now={now}
          viewer={viewer}
          onDone={() => setLater(false)}
        />
      ) : null}
    </View>
  );
}

const seeOne = ({ id, seen }: NoticeView) => (seen ? Promise.resolve() : seeNotices([id]));

/** When to be told again, or never again of this. */
function Later({
  notice,
  calendar,
  now,
  viewer,
  onDone,
}: {
  notice: NoticeView;
  calendar: CalendarView | undefined;
  now: number;
  viewer: Viewer;
  onDone(): void;
}) {
  const noticeSettings = useNoticeSettings().data?.noticeSettings;
  const [moment, setMoment] = useState('');
  const times = snoozeTimes(now, viewer);
  const put = (until: number, words: string) => {
    void snooze(notice, until, words);
    onDone();
  };
  const mute = (what: 'items' | 'calendars', id: string, words: string) => {
    if (noticeSettings)
      void changeNoticeSettings(
        {
          ...noticeSettings,
          muted: {
            ...noticeSettings.muted,
            [what]: [...noticeSettings.muted[what].filter((m) => m !== id), id],
          },
        },
        words,
      );
    onDone();
  };
  const at = Date.parse(`${moment}:00Z`);
  return (
    <View role="group" aria-label={`Snooze ${notice.title}`} className="gap-2 border-t border-line pb-3 pt-1">
      <View className="-ml-4 flex-row flex-wrap">
        <Button kind="quiet" onPress={() => put(times.hour, 'in an hour')}>
          In an hour
        </Button>
        {times.evening ? (
          <Button kind="quiet" onPress={() => put(times.evening!, 'this evening')}>
            This evening
          </Button>
        ) : null}
        <Button kind="quiet" onPress={() => put(times.tomorrow, 'tomorrow morning')}>
          Tomorrow morning
        </Button>
      </View>
      <View className="flex-row items-end gap-2">
        <View className="min-w-0 flex-1">
          <MomentField label="Or at" value={moment} onChange={setMoment} />
        </View>
        <Button
          kind="second"
          disabled={!moment || Number.isNaN(at)}
          onPress={() => put(viewer.toInstant(at), `at ${moment.replace('T', ' ')}`)}
        >
          Then
        </Button>
      </View>
      {notice.itemId || calendar ? (
        <Choice
          label="Mute"
          value=""
          onChange={(e) => {
            const { value } = e.currentTarget;
            if (value === 'item' && notice.itemId) mute('items', notice.itemId, `${notice.title}: muted`);
            if (value === 'calendar' && calendar) mute('calendars', calendar.id, `${calendar.name}: muted`);
          }}
          options={[
            { value: '', words: 'choose …' },
            ...(notice.itemId ? [{ value: 'item', words: 'this item' }] : []),
            ...(calendar ? [{ value: 'calendar', words: `all of ${calendar.name}` }] : []),
          ]}
        />
      ) : null}
    </View>
  );
}
