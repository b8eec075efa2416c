import type { NoticeSettings } from '@zephyrfield/core/api/notify';
import { channelsFor, type Channel } from '@zephyrfield/core/notify/settings';
import { deadlineOf } from '@zephyrfield/core/item/urgency';
import { remindKind } from '@zephyrfield/core/notify/rules';
import { instantOf } from '@zephyrfield/core/time/when';
import { shortWhen } from '@zephyrfield/core/words/when';
import { useMemo } from 'react';
import { View } from 'react-native';
import { useLearner } from '@/data/learner';
import { useNow } from '@/data/now';
import { useItem, useOccurrences } from '@/data/queries';
import { Text } from '@/ui/text';

const BY: Record<Channel, string> = { app: 'in the app', browser: 'in this browser', mail: 'by mail' };
const DAY = 86_400_000;

const listed = (words: readonly string[]): string =>
  words.length < 2 ? (words[0] ?? '') : `${words.slice(0, -1).join(', ')} and ${words.at(-1)}`;

/** What it all means, by the next piece of work there is: when one is told of it, and how. */
export function Example({ noticeSettings }: { noticeSettings: NoticeSettings }) {
  const { learner, viewer } = useLearner()!;
  const now = useNow();
  const occurrences = useOccurrences(learner.id, now).data;
  const next = useMemo(() => {
    const open =
      occurrences?.filter(
        (o) =>
          remindKind(o.kind) === 'work' &&
          o.due &&
          !o.finished &&
          !o.hidden &&
          o.status !== 'cancelled' &&
          deadlineOf(o.due, viewer) > now + 2 * DAY,
      ) ?? [];
    return open.sort((a, b) => deadlineOf(a.due!, viewer) - deadlineOf(b.due!, viewer))[0];
  }, [occurrences, viewer, now]);
  return next ? (
    <Said
      itemId={next.itemId}
      recurrenceId={next.recurrenceId}
      channels={channelsFor(noticeSettings, learner.id, 'dueSoon')}
    />
  ) : null;
}

function Said({
  itemId,
  recurrenceId,
  channels,
}: {
  itemId: string;
  recurrenceId: string;
  channels: readonly Channel[];
}) {
  const { viewer } = useLearner()!;
  const item = useItem(itemId, recurrenceId).data;
  if (!item) return null;
  const times = item.reminders.moments
    .filter((m) => m.of !== 'pastDue')
    .map((m) => shortWhen(instantOf(Date.parse(m.at)), viewer));
  return (
    <View className="rounded-xl bg-lagoon-wash px-4 py-3">
      <Text>
        {times.length && channels.length ? (
          <>
            You will be told about <Text kind="strong">{item.occurrence.title}</Text> on {listed(times)},{' '}
            {listed(channels.map((w) => BY[w]))}.
          </>
        ) : (
          <>
            You will not be reminded of <Text kind="strong">{item.occurrence.title}</Text>.
          </>
        )}
      </Text>
    </View>
  );
}
