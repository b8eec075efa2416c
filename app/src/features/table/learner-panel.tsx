import type { LearnerRow } from '@zephyrfield/core/api/table';
import { keyOf } from '@zephyrfield/core/item/occurrence';
import { itemPath } from '@zephyrfield/core/notify/links';
import { CLOSED_WORDS, SETTLE_WORDS, workOf } from '@zephyrfield/core/view/work';
import { shortDue, today } from '@zephyrfield/core/words/when';
import { useMemo } from 'react';
import { View } from 'react-native';
import { Link, router } from '@/router';
import { useLearner, useOwnClock } from '@/data/learner';
import { useNow } from '@/data/now';
import { useCalendars, useOccurrences } from '@/data/queries';
import { useScreen } from '@/data/screen';
import { Button } from '@/ui/button';
import { Cleat } from '@/ui/cleat';
import { Flag } from '@/ui/flag';
import { linkLook } from '@/ui/link-look';
import { Sheet } from '@/ui/sheet';
import { Text } from '@/ui/text';

const AHEAD = 14;
const PLACES = [
  ['/today', 'Today'],
  ['/calendar', 'Calendar'],
  ['/todo', 'To-do'],
  ['/plan', 'Plan'],
] as const;

/** One learner beside the table: what is past due, what nobody has said, what comes, and the way to their places. */
export function LearnerPanel({ row, onClose }: { row: LearnerRow; onClose(): void }) {
  const learner = useLearner()!.learners.find((l) => l.id === row.learnerId);
  return (
    <Sheet label={row.name} onClose={onClose}>
      <View className="gap-4">
        <View className="flex-row items-center gap-3 pr-10">
          <Cleat name={row.name} />
          <View className="min-w-0 flex-1">
            <Text kind="title" heading={2}>
              {row.name}
            </Text>
            <Text kind="small">{row.reasons.length ? row.reasons.join(' · ') : 'on their way'}</Text>
          </View>
        </View>
        {learner ? (
          <>
            <View className="flex-row flex-wrap gap-2">
              {PLACES.map(([href, words]) => (
                <Button
                  key={href}
                  kind="second"
                  className="px-3"
                  onPress={() => {
                    useScreen.getState().chooseLearner(learner.id);
                    router.push(href);
                  }}
                >
                  {words}
                </Button>
              ))}
            </View>
            <Work learnerId={learner.id} />
          </>
        ) : null}
      </View>
    </Sheet>
  );
}

function Work({ learnerId }: { learnerId: string }) {
  const learner = useLearner()!.learners.find((l) => l.id === learnerId)!;
  const viewer = useOwnClock(learner);
  const now = useNow();
  const { data } = useOccurrences(learnerId, now);
  const calendars = useCalendars(learnerId).data;
  const flags = new Map(calendars?.map((c) => [c.id, c]));
  const parts = useMemo(() => {
    const day = today(now, viewer);
    const work = workOf(
      (data ?? []).filter((o) => !o.hidden),
      { now, viewer },
    );
    const soon = [...work.tonight, ...work.ahead].filter((e) => e.day <= day + AHEAD);
    return [
      ['Past due', work.pastDue],
      [SETTLE_WORDS, work.toSettle],
      [CLOSED_WORDS, work.closed.filter((e) => e.day >= day - AHEAD)],
      ['Due within two weeks', soon],
    ] as const;
  }, [data, now, viewer]);
  if (!data)
    return <View role="status" aria-label="Loading the schedule" className="h-40 rounded-lg bg-line" />;
  return (
    <>
      {parts.map(([title, entries]) =>
        entries.length ? (
          <View key={title} role="group" aria-label={title} className="gap-1">
            <Text kind="lead" heading={3} className={title === 'Past due' ? 'text-poppy' : ''}>
              {title}
            </Text>
            {entries.map(({ occurrence: o }) => {
              const calendar = flags.get(o.calendarId);
              return (
                <Link
                  key={keyOf(o)}
                  href={itemPath(o.itemId, o.recurrenceId, learnerId)}
                  className={`flex-row items-center gap-2 no-underline ${linkLook('body')}`}
                >
                  <View className="min-h-touch flex-row items-center gap-2">
                    {calendar ? <Flag colour={calendar.colour} flag={calendar.flag} size={18} /> : null}
                    <View className="min-w-0 flex-1">
                      <Text className="text-lagoon underline">{o.title}</Text>
                      <Text kind="small">{shortDue(o.due!, viewer)}</Text>
                    </View>
                  </View>
                </Link>
              );
            })}
          </View>
        ) : null,
      )}
      {parts.every(([, entries]) => !entries.length) ? <Text>Nothing is due within two weeks.</Text> : null}
    </>
  );
}
