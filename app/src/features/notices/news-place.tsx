import type { NoticeView } from '@zephyrfield/core/api/notify';
import { newsRows, type NewsRow } from '@zephyrfield/core/notify/news';
import { dayIn, instantIn, instantOf } from '@zephyrfield/core/time/when';
import { UTC } from '@zephyrfield/core/time/zone';
import { longDay, today as dayOf } from '@zephyrfield/core/words/when';
import { useState } from 'react';
import { ScrollView, View } from 'react-native';
import { Link, useLocalSearchParams } from '@/router';
import { askBrowser, browserState } from '@/data/browser-notices';
import { problemOf } from '@/data/client';
import { useLearner } from '@/data/learner';
import { seeAllNews, useNotices, useNoticeSettings } from '@/data/notices';
import { useNow } from '@/data/now';
import { useOccurrences } from '@/data/queries';
import { Button } from '@/ui/button';
import { Contours } from '@/ui/contours';
import { HiddenHere } from '@/ui/hidden-here';
import { linkLook } from '@/ui/link-look';
import { Notice, ProblemNotice } from '@/ui/notice';
import { PlaceHead } from '@/ui/place-head';
import { Text } from '@/ui/text';
import { NewsLine } from './news-line';

/**
 * All that is new to somebody, what they have not seen first, by day; each can be dealt with where it stands. The room
 * *reminders* is the same, with reminders and sheets alone.
 */
export function NewsPlace() {
  const { viewer } = useLearner()!;
  const now = useNow();
  const notices = useNotices();
  const isReminders = useLocalSearchParams<{ show?: string }>().show === 'reminders';
  const rows = newsRows(notices.data?.notices ?? []).filter((n) => !isReminders || n.sort === 'reminder');
  const unseen = rows.filter((n) => !n.seen);
  const seen = rows.filter((n) => n.seen);
  return (
    <ScrollView
      className="flex-1"
      contentContainerClassName="mx-auto w-full max-w-[760px] gap-4 px-4 pb-10 pt-3"
    >
      <PlaceHead
        title="News"
        says={
          <View className="min-h-touch flex-row flex-wrap items-center gap-x-3">
            <Text className="text-ink2">
              {unseen.length ? `${unseen.length} not seen yet` : 'You have seen everything.'}
            </Text>
            {unseen.length ? (
              <Button kind="quiet" className="px-1" onPress={() => void seeAllNews(unseen[0]!.at)}>
                Mark all as seen
              </Button>
            ) : null}
          </View>
        }
      />
      <ProblemNotice problem={notices.error && problemOf(notices.error)} />
      <Silent now={now} />
      <InBrowser />
      {notices.isPending ? (
        <View role="status" aria-label="Loading the news" className="h-24 rounded-xl bg-sheet" />
      ) : null}
      <Days list={unseen} title="Not seen yet" now={now} viewer={viewer} />
      <Days list={seen} title={unseen.length ? 'Seen' : ''} now={now} viewer={viewer} />
      {!notices.isPending && rows.length === 0 ? (
        <View className="gap-4 pt-4">
          <Text>Nothing here yet. Reminders, new work, moved dates and notes will show up here.</Text>
          <Contours height={140} />
        </View>
      ) : null}
      <View className="flex-row flex-wrap gap-x-6 border-t border-line pt-3">
        <Link href="/day-sheet" className={linkLook()}>
          Day sheet
        </Link>
        <Link href="/notice-settings" className={linkLook()}>
          Reminders and mail
        </Link>
      </View>
    </ScrollView>
  );
}

/** Asks once for the browser’s leave, where somebody wants to be told by it. */
function InBrowser() {
  const noticeSettings = useNoticeSettings();
  const [, setAsked] = useState('');
  const isWanted =
    noticeSettings.data &&
    Object.values(noticeSettings.data.noticeSettings.all).some((channels) => channels.includes('browser'));
  if (!isWanted || browserState() !== 'unasked') return null;
  return (
    <Notice kind="warning" title="Show notifications in this browser too?">
      <View className="gap-2">
        <Text>They appear while Zephyrfield is open, even behind other windows.</Text>
        <Button kind="second" className="self-start" onPress={() => void askBrowser().then(setAsked)}>
          Allow notifications
        </Button>
      </View>
    </Notice>
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

interface DaysProps {
  list: readonly NewsRow<NoticeView>[];
  title: string;
  now: number;
  viewer: Viewer;
}

function Days({ list, title, now, viewer }: DaysProps) {
  if (!list.length) return null;
  const days = new Map<number, NewsRow<NoticeView>[]>();
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
      {[...days].map(([day, news]) => (
        <View key={day} className="gap-2">
          <Text kind="label" heading={title ? 3 : 2}>
            {day === dayOf(now, viewer) ? 'Today' : longDay(day)}
          </Text>
          {news.map((n) => (
            <NewsLine key={n.id} news={n} now={now} viewer={viewer} />
          ))}
        </View>
      ))}
    </View>
  );
}
