import { keyOf } from '@zephyrfield/core/item/occurrence';
import { itemPath } from '@zephyrfield/core/notify/links';
import { agendaEntry, entryOrder } from '@zephyrfield/core/view/entry';
import { countHidden, partHidden } from '@zephyrfield/core/view/hidden';
import { wholeSlip } from '@zephyrfield/core/view/slips';
import { plural } from '@zephyrfield/core/words/text';
import { today as dayOf } from '@zephyrfield/core/words/when';
import { useMemo, useState } from 'react';
import { ScrollView, View } from 'react-native';
import { problemOf } from '@/data/client';
import { changeLayer } from '@/data/layer';
import { useLearner } from '@/data/learner';
import { useNow } from '@/data/now';
import { useDrawnCalendars, useOccurrences, useUndated } from '@/data/queries';
import { useScreen } from '@/data/screen';
import { Part } from '@/ui/part';
import { router } from '@/router';
import { Button } from '@/ui/button';
import { Flag } from '@/ui/flag';
import { ProblemNotice } from '@/ui/notice';
import { Slip } from '@/ui/slip';
import { PlaceHead } from '@/ui/place-head';
import { Text } from '@/ui/text';

/** Number of single items that are drawn at first, and more at each asking. */
const STEP = 40;

/** All that one has hidden, for oneself alone: calendars on this device, and single items; each brought back. */
export function HiddenPlace() {
  const { learner, viewer } = useLearner()!;
  const now = useNow();
  const calendars = useDrawnCalendars(learner.id);
  const occurrences = useOccurrences(learner.id, now);
  const undated = useUndated(learner.id);
  const hiddenIds = useScreen((s) => s.hidden);
  const toggle = useScreen((s) => s.toggle);
  const [most, setMost] = useState(STEP);
  const today = dayOf(now, viewer);
  const { counts, single } = useMemo(() => {
    const all = [...(occurrences.data ?? []), ...(undated.data ?? [])];
    const { held } = partHidden(all, new Set(hiddenIds));
    const order = entryOrder(viewer);
    const entries = held.map((o) => agendaEntry(o, now, viewer));
    const isOver = (e: (typeof entries)[number]) => Number(e.lastDay < today && e.urgency !== 'pastDue');
    return {
      // What is over is not missed any more.
      counts: countHidden(entries.filter((e) => !isOver(e)).map((e) => e.occurrence)).calendars,
      single: entries
        .filter((e) => e.occurrence.hidden)
        .sort((a, b) => isOver(a) - isOver(b) || a.day - b.day || order(a, b)),
    };
  }, [occurrences.data, undated.data, hiddenIds, now, viewer, today]);
  const byId = new Map(calendars.data?.map((c) => [c.id, c]));
  const struck = (calendars.data ?? []).filter((c) => hiddenIds.includes(c.id));
  const failure = calendars.error ?? occurrences.error ?? undated.error;
  return (
    <ScrollView className="flex-1" contentContainerClassName="mx-auto w-full max-w-[760px] px-4 pb-10 pt-3">
      <PlaceHead title="Hidden" says="What you hide is hidden for you alone. Others still see it." />
      <ProblemNotice problem={failure && problemOf(failure)} />
      {struck.length ? (
        <Part title="Calendars" aside="on this device">
          {struck.map((calendar) => (
            <View key={calendar.id} className="min-h-touch flex-row flex-wrap items-center gap-x-3">
              <Flag colour={calendar.colour} flag={calendar.flag} size={17} struck />
              <Text className="min-w-0 flex-1">
                <Text kind="strong">{calendar.name}</Text>{' '}
                <Text kind="small">{plural(counts.get(calendar.id) ?? 0, 'item')} from today on</Text>
              </Text>
              <Button
                kind="second"
                onPress={() => toggle([calendar.id])}
                aria-label={`Show ${calendar.name}`}
              >
                Show
              </Button>
            </View>
          ))}
        </Part>
      ) : null}
      {single.length ? (
        <Part title="Single items" aside={plural(single.length, 'item')}>
          <Text kind="small">They are not in any view, and nothing reminds you of them.</Text>
          {single.slice(0, most).map((entry) => {
            const { occurrence } = entry;
            return (
              <View key={keyOf(occurrence)}>
                <Slip
                  {...wholeSlip(entry, byId.get(occurrence.calendarId), viewer, { today, isUnderDay: false })}
                  chosen={false}
                  onOpen={() => router.push(itemPath(occurrence.itemId, occurrence.recurrenceId))}
                />
                <Button
                  kind="quiet"
                  aria-label={`Show ${occurrence.title} again`}
                  onPress={() =>
                    void changeLayer(
                      learner.id,
                      occurrence,
                      { hidden: false },
                      { words: `${occurrence.title}: shown again` },
                    )
                  }
                  className="-ml-4 self-start"
                >
                  Show it again
                </Button>
              </View>
            );
          })}
          {single.length > most ? (
            <Button kind="quiet" onPress={() => setMost(most + STEP)} className="-ml-4 self-start">
              {`${single.length - most} more`}
            </Button>
          ) : null}
        </Part>
      ) : null}
      {calendars.data && occurrences.data && undated.data && !struck.length && !single.length ? (
        <Text className="pt-4">Nothing is hidden.</Text>
      ) : null}
    </ScrollView>
  );
}
