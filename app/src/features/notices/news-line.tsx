import type { NoticeView } from '@zephyrfield/core/api/notify';
import { suffices } from '@zephyrfield/core/item/access';
import { noticePath } from '@zephyrfield/core/notify/links';
import type { NewsRow } from '@zephyrfield/core/notify/news';
import { instantOf } from '@zephyrfield/core/time/when';
import { firstName } from '@zephyrfield/core/words/text';
import { clockTime, shortWhen, type Viewer } from '@zephyrfield/core/words/when';
import { useState } from 'react';
import { Pressable, View } from 'react-native';
import { call } from '@/data/client';
import { finish } from '@/data/layer';
import { useLearner } from '@/data/learner';
import { refreshNotices, seeNotices } from '@/data/notices';
import { answerOffer, useOffers } from '@/data/publish';
import { useCalendars } from '@/data/queries';
import { useUndo } from '@/data/undo';
import { router } from '@/router';
import { Flag } from '@/ui/flag';
import { Text } from '@/ui/text';
import { Later } from './later';

interface Props {
  news: NewsRow<NoticeView>;
  now: number;
  viewer: Viewer;
}

/** A piece of news, with what can be done about it. */
export function NewsLine({ news, now, viewer }: Props) {
  const { learners } = useLearner()!;
  const of = learners.find((l) => l.id === news.learnerId);
  const calendar = useCalendars(news.learnerId).data?.find((c) => c.id === news.calendarId);
  const [later, setLater] = useState(false);
  const { title, line, at, seen, finished, snoozedUntil, ids, sort } = news;
  const see = () => (seen ? Promise.resolve() : seeNotices(ids));
  const open = () => {
    void see();
    router.push(noticePath(news));
  };
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
      <Text className={LINE_LOOK[lookOf(news)]} numberOfLines={3}>
        {sort === 'note' ? `“${line}”` : line}
      </Text>
      {ids.length > 1 ? <Text kind="small">{`the latest of ${ids.length}`}</Text> : null}
      {snoozedUntil ? (
        <Text kind="small">
          You will be told again {shortWhen(instantOf(Date.parse(snoozedUntil)), viewer)}.
        </Text>
      ) : null}
      <View className="-ml-2 flex-row flex-wrap">
        <Deed role="link" words={openWords(news)} title={title} onPress={open} />
        <Deeds news={news} onSeen={see} />
        {finished || sort === 'note' || sort === 'offer' ? null : (
          <Deed words="Remind me later" title={title} isOpen={later} onPress={() => setLater(!later)} />
        )}
        {seen ? null : <Deed words="Seen" title={title} onPress={() => void see()} />}
      </View>
      {later ? (
        <Later notice={news} calendar={calendar} now={now} viewer={viewer} onDone={() => setLater(false)} />
      ) : null}
    </View>
  );
}

const LINE_LOOK = { pastDue: 'text-poppy', change: 'text-marigold', plain: 'text-ink2' } as const;
function lookOf({ kind, finished, sort }: NoticeView): keyof typeof LINE_LOOK {
  if (kind === 'pastDue') return finished ? 'plain' : 'pastDue';
  return sort === 'change' ? 'change' : 'plain';
}

const openWords = ({ sort, sheet }: NoticeView) => (sheet ? 'Read it' : sort === 'note' ? 'Answer' : 'Open');

/** Deeds that concern the thing itself: finishing work, answering an offer. */
function Deeds({ news, onSeen }: { news: NewsRow<NoticeView>; onSeen(): Promise<void> }) {
  const { learners } = useLearner()!;
  const of = learners.find((l) => l.id === news.learnerId);
  const { title, itemId, recurrenceId, learnerId, offerId } = news;
  const done = async () => {
    try {
      const { occurrence } = await call('item', { params: { id: itemId! }, query: { recurrenceId } });
      await finish(learnerId, occurrence, true);
      await onSeen();
    } catch (error) {
      useUndo.getState().failed(error);
    }
    await refreshNotices();
  };
  if (offerId && of && suffices(of.access, 'edit'))
    return <OfferDeeds learnerId={learnerId} offerId={offerId} title={title} onSeen={onSeen} />;
  const mayFinish = itemId && news.isWork && !news.finished && of && suffices(of.access, 'tick');
  return mayFinish ? <Deed words="Finish" title={title} onPress={() => void done()} /> : null;
}

/** Takes an offered calendar in, or not, while it waits for an answer. */
function OfferDeeds({
  learnerId,
  offerId,
  title,
  onSeen,
}: {
  learnerId: string;
  offerId: string;
  title: string;
  onSeen(): Promise<void>;
}) {
  const isOpen = useOffers(learnerId).data?.some((o) => o.id === offerId) ?? false;
  if (!isOpen) return null;
  const answer = async (take: boolean) => {
    try {
      await answerOffer(learnerId, offerId, { take, reminders: true });
      useUndo.getState().say(take ? 'It is in the calendar now.' : 'It was not taken in.');
      await onSeen();
    } catch (error) {
      useUndo.getState().failed(error);
    }
  };
  return (
    <>
      <Deed words="Take it in" title={title} onPress={() => void answer(true)} />
      <Deed words="No, thank you" title={title} onPress={() => void answer(false)} />
    </>
  );
}

interface DeedProps {
  words: string;
  /** The news it is about, for who hears it */
  title: string;
  role?: 'button' | 'link';
  isOpen?: boolean;
  onPress(): void;
}

function Deed({ words, title, role = 'button', isOpen, onPress }: DeedProps) {
  return (
    <Pressable
      role={role}
      aria-label={`${words}: ${title}`}
      aria-expanded={isOpen}
      onPress={onPress}
      className="min-h-touch justify-center px-2"
    >
      <Text kind="label" className="text-lagoon underline">
        {words}
      </Text>
    </Pressable>
  );
}
