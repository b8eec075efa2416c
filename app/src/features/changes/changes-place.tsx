import { suffices } from '@zephyrfield/core/item/access';
import { itemPath } from '@zephyrfield/core/notify/links';
import type { CalendarView } from '@zephyrfield/core/api/schemas';
import type { Zone } from '@zephyrfield/core/time/zone';
import { changesByDay, type ChangesOfDay } from '@zephyrfield/core/view/changes';
import { changeWords } from '@zephyrfield/core/item/change';
import { plural } from '@zephyrfield/core/words/text';
import { daysAway, longDay, today } from '@zephyrfield/core/words/when';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { router } from '@/router';
import { useMemo } from 'react';
import { Pressable, ScrollView, View } from 'react-native';
import { call, problemOf } from '@/data/client';
import { useLearner } from '@/data/learner';
import { useNow } from '@/data/now';
import { keys, useCalendars, useChanges } from '@/data/queries';
import { useQuestions } from '@/data/questions';
import { Button } from '@/ui/button';
import { Contours } from '@/ui/contours';
import { Flag } from '@/ui/flag';
import { ProblemNotice } from '@/ui/notice';
import { PlaceHead } from '@/ui/place-head';
import { Text } from '@/ui/text';

/** What changed: by day and course, unseen first. */
export function ChangesPlace() {
  const { learner, viewer } = useLearner()!;
  const now = useNow();
  const client = useQueryClient();
  const changes = useChanges(learner.id);
  const calendars = useCalendars(learner.id);
  const { unseen, seen, upTo } = useMemo(
    () => changesByDay(changes.data ?? [], viewer),
    [changes.data, viewer],
  );
  const see = useMutation({
    mutationFn: (id: number) => call('seeChanges', { params: { learnerId: learner.id }, body: { upTo: id } }),
    onSettled: () => client.invalidateQueries({ queryKey: keys.changes(learner.id) }),
  });
  const asked = useQuestions(learner.id).data;
  const questions = (asked?.maybeSame.length ?? 0) + (asked?.unmatched.length ?? 0);
  const failure = changes.error ?? see.error;
  const problem = failure && problemOf(failure);
  const day0 = today(now, viewer);
  return (
    <ScrollView
      className="flex-1"
      contentContainerClassName="mx-auto w-full max-w-[760px] gap-3 px-4 pb-10 pt-3"
    >
      <PlaceHead
        title="News"
        says={unseen.length ? 'Some changes are new to you' : 'No change is new to you'}
      >
        {upTo !== null ? (
          <Button kind="second" busy={see.isPending} onPress={() => see.mutate(upTo)}>
            Mark all as seen
          </Button>
        ) : null}
      </PlaceHead>
      <ProblemNotice problem={problem} />
      {questions && suffices(learner.access, 'edit') ? (
        <View className="flex-row flex-wrap items-center gap-x-3 rounded-xl bg-lagoon-wash px-4 py-1">
          <Text className="min-w-0 flex-1">
            {plural(questions, 'question')} about what was gathered: what is the same, what became of what.
          </Text>
          <Button kind="quiet" onPress={() => router.push('/gather')}>
            Answer
          </Button>
        </View>
      ) : null}
      {changes.isPending ? (
        <View role="status" aria-label="Loading what changed" className="h-24 rounded-xl bg-sheet" />
      ) : null}
      {unseen.map((day) => (
        <Day
          key={`unseen ${day.day}`}
          {...day}
          calendarsById={calendars.data ?? []}
          today={day0}
          viewer={viewer}
          unseen
        />
      ))}
      {seen.length ? (
        <Text kind="title" heading={2} className="pt-4 text-ink2">
          Seen before
        </Text>
      ) : null}
      {seen.map((day) => (
        <Day
          key={`seen ${day.day}`}
          {...day}
          calendarsById={calendars.data ?? []}
          today={day0}
          viewer={viewer}
          unseen={false}
        />
      ))}
      {changes.data?.length === 0 ? (
        <View className="gap-3">
          <Text>
            Nothing has changed yet. When a date moves, you see here where it was and where it is now.
          </Text>
          <Contours height={140} />
        </View>
      ) : null}
    </ScrollView>
  );
}

function Day({
  day,
  calendars,
  calendarsById,
  today: day0,
  viewer,
  unseen,
}: ChangesOfDay & { calendarsById: readonly CalendarView[]; today: number; viewer: Zone; unseen: boolean }) {
  return (
    <View className="gap-2">
      <View className="flex-row items-baseline gap-2">
        <Text kind={unseen ? 'title' : 'lead'} heading={unseen ? 2 : 3}>
          {longDay(day)}
        </Text>
        <Text kind="small">found {daysAway(day, day0)}</Text>
      </View>
      {calendars.map(({ calendarId, changes }) => {
        const calendar = calendarsById.find((c) => c.id === calendarId);
        return (
          <View
            key={calendarId}
            role="group"
            aria-label={calendar?.name ?? 'Calendar'}
            className="rounded-xl bg-sheet px-3 py-2 shadow-sm"
          >
            <View className="flex-row items-center gap-2 px-2 py-1">
              {calendar ? <Flag colour={calendar.colour} flag={calendar.flag} size={16} /> : null}
              <Text kind="small" className="flex-1">
                {calendar?.name}
              </Text>
              {unseen ? (
                <Text kind="small" className="font-bold text-lagoon">
                  {changes.length} new to you
                </Text>
              ) : null}
            </View>
            {changes.map((change) => (
              <Pressable
                key={change.id}
                role="link"
                onPress={() => router.push(itemPath(change.itemId, change.recurrenceId))}
                className={`min-h-touch justify-center rounded-lg border-l-4 px-3 py-1.5 hover:bg-lagoon-wash ${unseen ? 'border-lagoon' : 'border-transparent'}`}
              >
                <Text kind="strong">{change.title}</Text>
                <Text className={change.kind === 'moved' ? 'text-marigold' : 'text-ink2'}>
                  {changeWords(change, viewer)}
                </Text>
              </Pressable>
            ))}
          </View>
        );
      })}
    </View>
  );
}
