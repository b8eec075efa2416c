import { suffices } from '@zephyrfield/core/item/access';
import { keyOf } from '@zephyrfield/core/item/occurrence';
import { itemPath } from '@zephyrfield/core/notify/links';
import type { AgendaEntry } from '@zephyrfield/core/view/entry';
import { wholeSlip } from '@zephyrfield/core/view/slips';
import { CLOSED_WORDS, SETTLE_WORDS } from '@zephyrfield/core/view/work';
import { plural } from '@zephyrfield/core/words/text';
import { router } from '@/router';
import { useDeferredValue } from 'react';
import { ScrollView, View } from 'react-native';
import { problemOf } from '@/data/client';
import { finish } from '@/data/layer';
import { Button } from '@/ui/button';
import { Contours } from '@/ui/contours';
import { HiddenHere } from '@/ui/hidden-here';
import { ProblemNotice } from '@/ui/notice';
import { PlaceHead } from '@/ui/place-head';
import { Slip } from '@/ui/slip';
import { followNext } from '@/ui/slip-focus';
import { Text } from '@/ui/text';
import { Ahead } from './ahead';
import { Head } from './head';
import { Next } from './next';
import { Part } from '@/ui/part';
import { Tonight } from './tonight';
import { useToday } from './use-today';

/**
 * Today in five seconds: what there is to do tonight, first and whole; what is past due; where to be; what comes.
 */
export function TodayPlace() {
  const today = useToday();
  const { learner, viewer, now, seen, byId } = today;
  // What is for now stands before what comes is drawn.
  const isWhole = useDeferredValue(true, false);
  const mayTick = suffices(learner.access, 'tick');
  const open = ({ occurrence }: AgendaEntry) =>
    router.push(itemPath(occurrence.itemId, occurrence.recurrenceId));
  const slip = (entry: AgendaEntry, isUnderDay = true, more = '') => {
    const { occurrence } = entry;
    const whole = wholeSlip(entry, byId.get(occurrence.calendarId), viewer, { today: seen.day, isUnderDay });
    return (
      <Slip
        key={keyOf(occurrence)}
        {...whole}
        detail={[whole.detail, more].filter(Boolean).join(' · ')}
        chosen={false}
        onOpen={() => open(entry)}
        onFinish={
          mayTick
            ? () => {
                followNext(whole.id);
                void finish(learner.id, occurrence, !occurrence.finished);
              }
            : undefined
        }
      />
    );
  };
  const list = (title: string, entries: readonly AgendaEntry[], isPastDue = false) =>
    entries.length ? (
      <Part title={title} aside={plural(entries.length, 'item')} isPastDue={isPastDue}>
        {entries.map((e) => slip(e, false))}
      </Part>
    ) : null;
  if (today.calendars?.length === 0) return <Empty mayEdit={suffices(learner.access, 'edit')} />;
  return (
    <ScrollView className="flex-1" contentContainerClassName="mx-auto w-full max-w-[1080px] px-4 pb-10 pt-3">
      <Head today={today} />
      <HiddenHere held={today.held} nameOf={(id) => byId.get(id)?.name ?? ''} />
      <ProblemNotice problem={today.failure && problemOf(today.failure)} />
      {today.isPending ? (
        <View role="status" aria-label="Loading today" className="mt-4 h-24 rounded-xl bg-sheet" />
      ) : null}
      {today.isKnown ? (
        <View className="wide:flex-row wide:gap-8">
          <View className="min-w-0 wide:flex-1">
            {seen.next ? (
              <Next
                next={seen.next}
                viewer={viewer}
                now={now}
                calendar={byId.get(seen.next.entry.occurrence.calendarId)}
                onOpen={open}
              />
            ) : null}
            <Tonight today={today} slip={slip} />
            {list(
              'Was due today',
              seen.pastDue.filter((e) => e.day === seen.day),
              true,
            )}
            {list(
              'Past due',
              seen.pastDue.filter((e) => e.day !== seen.day),
              true,
            )}
            {list(SETTLE_WORDS, seen.toSettle)}
            {list(CLOSED_WORDS, seen.closed)}
            {seen.places.length + seen.notes.length ? (
              <Part title="Where to be" aside="">
                {[...seen.notes, ...seen.places].map((e) => slip(e))}
              </Part>
            ) : null}
          </View>
          <View className="min-w-0 wide:flex-1">{isWhole ? <Ahead today={today} slip={slip} /> : null}</View>
        </View>
      ) : null}
    </ScrollView>
  );
}

function Empty({ mayEdit }: { mayEdit: boolean }) {
  return (
    <View className="flex-1 gap-4 px-4 pt-6">
      <PlaceHead title="Today" />
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
