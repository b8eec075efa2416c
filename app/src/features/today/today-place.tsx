import { suffices } from '@zephyrfield/core/item/access';
import { keyOf } from '@zephyrfield/core/item/occurrence';
import { itemPath } from '@zephyrfield/core/notify/links';
import type { AgendaEntry } from '@zephyrfield/core/view/entry';
import { sittingId } from '@zephyrfield/core/plan/plan-days';
import { wholeSlip } from '@zephyrfield/core/view/slips';
import { CLOSED_WORDS, SETTLE_WORDS } from '@zephyrfield/core/view/work';
import { plural } from '@zephyrfield/core/words/text';
import { Link, router } from '@/router';
import { useDeferredValue } from 'react';
import { ScrollView, View } from 'react-native';
import { problemOf } from '@/data/client';
import { finish } from '@/data/layer';
import { useOpenSitting } from '@/data/open-sitting';
import { Button } from '@/ui/button';
import { Contours } from '@/ui/contours';
import { HiddenHere } from '@/ui/hidden-here';
import { ProblemNotice } from '@/ui/notice';
import { Slip } from '@/ui/slip';
import { Strip } from '@/ui/strip';
import { linkLook } from '@/ui/link-look';
import { Text } from '@/ui/text';
import { Ahead } from './ahead';
import { Head } from './head';
import { Next } from './next';
import { Part } from '@/ui/part';
import { useToday } from './use-today';

/**
 * Today in five seconds: the one next thing, where to be, what is due by tonight, what changed, what comes.
 */
export function TodayPlace() {
  const today = useToday();
  const { learner, viewer, now, seen, byId } = today;
  // What is for now stands before what comes is drawn.
  const isWhole = useDeferredValue(true, false);
  const mayTick = suffices(learner.access, 'tick');
  const open = ({ occurrence }: AgendaEntry) =>
    router.push(itemPath(occurrence.itemId, occurrence.recurrenceId));
  const slip = (entry: AgendaEntry, isUnderDay = true) => {
    const { occurrence } = entry;
    return (
      <Slip
        key={keyOf(occurrence)}
        {...wholeSlip(entry, byId.get(occurrence.calendarId), viewer, { today: seen.day, isUnderDay })}
        chosen={false}
        onOpen={() => open(entry)}
        onFinish={mayTick ? () => void finish(learner.id, occurrence, !occurrence.finished) : undefined}
      />
    );
  };
  const openDue = seen.due.filter((e) => e.urgency !== 'finished').length;
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
            {today.tonight.length ? (
              <Part
                title="Tonight"
                aside={
                  <Link href="/plan" className={linkLook()}>
                    plan
                  </Link>
                }
              >
                {today.tonight.map((entry) => (
                  <Strip
                    key={sittingId(entry)}
                    entry={entry}
                    calendar={byId.get(entry.occurrence.calendarId)}
                    hours={viewer.hours ?? 24}
                    onOpen={() => useOpenSitting.getState().open(sittingId(entry))}
                  />
                ))}
              </Part>
            ) : null}
            {seen.toSettle.length ? (
              <Part title={SETTLE_WORDS} aside={plural(seen.toSettle.length, 'item')}>
                {seen.toSettle.map((e) => slip(e, false))}
              </Part>
            ) : null}
            {seen.pastDue.length ? (
              <Part title="Past due" aside={plural(seen.pastDue.length, 'item')} isPastDue>
                {seen.pastDue.map((e) => slip(e, false))}
              </Part>
            ) : null}
            {seen.closed.length ? (
              <Part title={CLOSED_WORDS} aside={plural(seen.closed.length, 'item')}>
                {seen.closed.map((e) => slip(e, false))}
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
