import type { OccurrenceView } from '@zephyrfield/core/api/schemas';
import { agendaEntry } from '@zephyrfield/core/view/entry';
import type { Urgency } from '@zephyrfield/core/item/urgency';
import { plural } from '@zephyrfield/core/words/text';
import { today as dayOf } from '@zephyrfield/core/words/when';
import { View } from 'react-native';
import { create } from 'zustand';
import { createJSONStorage, persist } from 'zustand/middleware';
import { isRecord } from '@/data/kept';
import { onForget } from '@/data/forget';
import { finishAll } from '@/data/layer';
import { useLearner } from '@/data/learner';
import { useNow } from '@/data/now';
import { useCalendars, useOccurrences } from '@/data/queries';
import { router } from '@/router';
import { Button } from '@/ui/button';
import { Flag } from '@/ui/flag';
import { Text } from '@/ui/text';

interface Arrived {
  /** Calendars that have just been gathered for the first time */
  calendarIds: string[];
  arrived(calendarIds: readonly string[]): void;
  settled(calendarIds: readonly string[]): void;
}

/**
 * Remembers which calendars have just come in, until it is said what became of their past; kept on the device, so that a
 * reload asks again.
 */
export const useArrived = create<Arrived>()(
  persist(
    (set) => ({
      calendarIds: [],
      arrived: (ids) => set((s) => ({ calendarIds: [...new Set([...s.calendarIds, ...ids])] })),
      settled: (ids) => set((s) => ({ calendarIds: s.calendarIds.filter((id) => !ids.includes(id)) })),
    }),
    {
      name: 'zephyrfield-arrived',
      version: 1,
      storage: createJSONStorage(() => localStorage),
      partialize: ({ calendarIds }) => ({ calendarIds }),
      merge: (kept, fresh) => ({ ...fresh, calendarIds: idsIn(isRecord(kept) ? kept['calendarIds'] : null) }),
    },
  ),
);
const idsIn = (kept: unknown): string[] =>
  Array.isArray(kept) ? kept.filter((id): id is string => typeof id === 'string') : [];
onForget(() => useArrived.setState(useArrived.getInitialState()));

/** Standings of work that may have been done long ago. */
const PAST: readonly Urgency[] = ['pastDue', 'unsettled', 'closed'];

/**
 * Whoever comes in the middle of a term has past work in it that is done long ago: asked once, for all of it or
 * for a course, so that it does not stand as past due.
 */
export function PastWork() {
  const { learner, viewer } = useLearner()!;
  const now = useNow();
  const { calendarIds, settled } = useArrived();
  const calendars = useCalendars(learner.id).data ?? [];
  const occurrences = useOccurrences(learner.id, now).data ?? [];
  const today = dayOf(now, viewer);
  const of = new Map<string, OccurrenceView[]>(calendarIds.map((id) => [id, []]));
  for (const o of occurrences) {
    const { urgency, day } = agendaEntry(o, now, viewer);
    if (PAST.includes(urgency!) && day < today && o.status !== 'cancelled') of.get(o.calendarId)?.push(o);
  }
  const asked = calendars.filter((c) => of.get(c.id)?.length);
  const all = asked.flatMap((c) => of.get(c.id)!);
  if (!all.length) return null;
  const finish = (list: readonly OccurrenceView[], ids: readonly string[]) => {
    void finishAll(learner.id, list, true, `${plural(list.length, 'past item')} finished`);
    settled(ids);
  };
  const ids = asked.map((c) => c.id);
  return (
    <View role="group" aria-label="What is past" className="gap-3 rounded-xl bg-lagoon-wash p-4">
      <Text kind="title" heading={2}>
        Is everything before today done?
      </Text>
      <Text>
        {plural(all.length, 'item')} in what you have just gathered {all.length === 1 ? 'was' : 'were'} due
        before today. What is done need not stand as past due.
      </Text>
      <View className="flex-row flex-wrap gap-2">
        <Button onPress={() => finish(all, ids)}>{`Yes, all ${all.length}`}</Button>
        <Button
          kind="second"
          onPress={() => {
            settled(ids);
            router.push(`/todo?choose=1${asked.length === 1 ? `&calendar=${ids[0]!}` : ''}`);
          }}
        >
          Let me choose
        </Button>
        <Button kind="quiet" onPress={() => settled(ids)}>
          Leave it as it is
        </Button>
      </View>
      {asked.length > 1
        ? asked.map((calendar) => (
            <View key={calendar.id} className="flex-row flex-wrap items-center gap-x-3">
              <Flag colour={calendar.colour} flag={calendar.flag} size={17} />
              <Text className="min-w-0 flex-1">{calendar.name}</Text>
              <Button kind="second" onPress={() => finish(of.get(calendar.id)!, [calendar.id])}>
                {`Those ${of.get(calendar.id)!.length} are done`}
              </Button>
            </View>
          ))
        : null}
    </View>
  );
}
