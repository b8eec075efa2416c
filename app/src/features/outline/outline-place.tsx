import type { OutlineHead, OutlineView } from '@zephyrfield/core/api/outlines';
import { formatDate } from '@zephyrfield/core/time/civil';
import { capital } from '@zephyrfield/core/words/text';
import { today } from '@zephyrfield/core/words/when';
import { useMutation } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import { ScrollView, View } from 'react-native';
import { router, useLocalSearchParams } from '@/router';
import { isStopped, problemOf } from '@/data/client';
import { useLearner } from '@/data/learner';
import { useNow } from '@/data/now';
import { readOutline, sendOutline, useOutlines } from '@/data/outlines';
import { useCalendars } from '@/data/queries';
import { useSchool } from '@/data/school';
import { Button } from '@/ui/button';
import { ProblemNotice } from '@/ui/notice';
import { Progress } from '@/ui/progress';
import { PlaceHead } from '@/ui/place-head';
import { Text } from '@/ui/text';
import { draftOf } from './draft';
import type { For } from './for-fields';
import { Give, type Given } from './give';
import { Look } from './look';

/** A term where none is known: so many days back and ahead. */
const BACK = 60;
const AHEAD = 150;

/** Reading a course outline: given, looked through, added; or an older one looked up, and a newer version given. */
export function OutlinePlace() {
  const {
    id = '',
    newer = '',
    item = '',
  } = useLocalSearchParams<{ id?: string; newer?: string; item?: string }>();
  const { learner, viewer } = useLearner()!;
  const day = today(useNow(), viewer);
  const { term } = useSchool(learner, day - 200, day + 400);
  const calendars = useCalendars(learner.id).data;
  const kept = useOutlines(learner.id).data;
  const older = kept?.find((o) => o.id === (newer || id)) ?? null;
  if (!calendars || !kept)
    return <View role="status" aria-label="Loading" className="m-4 h-32 rounded-xl bg-line" />;
  const own = calendars.filter((c) => c.handMade);
  const begin: For = {
    calendarId: older?.calendarId ?? '',
    name: '',
    zone: learner.zone,
    from: term?.start ?? formatDate(day - BACK),
    to: term?.end ?? formatDate(day + AHEAD),
    order: null,
  };
  return (
    <Reading
      key={newer}
      begin={begin}
      own={own}
      id={id}
      item={item}
      older={newer ? older : null}
      title={newer ? `A newer version of ${older?.name ?? 'an outline'}` : 'Read an outline'}
    />
  );
}

interface ReadingProps {
  begin: For;
  own: Parameters<typeof Look>[0]['calendars'];
  id: string;
  item: string;
  older: OutlineHead | null;
  title: string;
}

function Reading({ begin, own, id, item, older, title }: ReadingProps) {
  const { learner } = useLearner()!;
  const [value, setValue] = useState(() => {
    // What was chosen before the page was left, as far as it is still there.
    const { calendarId = begin.calendarId, ...kept } = draftOf(id)?.value ?? {};
    return {
      ...begin,
      ...kept,
      calendarId: own.some((c) => c.id === calendarId) ? calendarId : begin.calendarId,
    };
  });
  const [waiting, setWaiting] = useState<readonly Given[]>([]);
  const [view, setView] = useState<OutlineView | null>(null);
  const [sent, setSent] = useState(0);
  const stop = useRef<AbortController | null>(null);
  const termOf = ({ from, to, order }: For) => ({ from, to, ...(order && { order }) });
  const read = useMutation({
    mutationFn: (given: Given) => {
      stop.current = new AbortController();
      setSent(0);
      return sendOutline(learner.id, { ...given, ...termOf(value) }, setSent, stop.current.signal);
    },
    onSuccess: (found, given) => {
      setView(found);
      // Loaded again, the page shows it again.
      router.setParams({ id: found.id });
      const name = given.name.replace(/\.\w{1,5}$/, '').replace(/[-_]+/g, ' ');
      setValue((was) => ({ ...was, name: was.name || (/^pasted/i.test(name) ? '' : capital(name)) }));
    },
  });
  const again = useMutation({
    mutationFn: ({ outline, to }: { outline: string; to: For }) => readOutline(outline, termOf(to)),
    onSuccess: setView,
  });
  const { mutate: look } = again;
  useEffect(() => {
    if (id && id !== view?.id) look({ outline: id, to: value });
    // Only as it is opened.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [id]);
  const problem = [read.error, again.error].find((e) => e && !isStopped(e));
  if (view)
    return (
      <Look
        key={view.id}
        view={view}
        value={value}
        calendars={own}
        item={item}
        older={older}
        more={waiting.length}
        isReading={again.isPending}
        problem={problem ? problemOf(problem) : null}
        onChange={(to) => {
          const next = { ...value, ...to };
          setValue(next);
          const isRead = next.from && next.to && next.from <= next.to;
          if (isRead && ('from' in to || 'to' in to || 'order' in to)) look({ outline: view.id, to: next });
        }}
        onNext={() => {
          const [next, ...others] = waiting;
          setView(null);
          router.setParams({ id: '' });
          setWaiting(others);
          setValue(begin);
          if (next) read.mutate(next);
        }}
      />
    );
  return (
    <ScrollView
      className="flex-1"
      contentContainerClassName="mx-auto w-full max-w-[640px] gap-5 px-4 pb-10 pt-3"
      keyboardShouldPersistTaps="handled"
    >
      <View className="gap-1">
        <PlaceHead title={title} />
        <Text className="text-ink2">
          Its due dates and events are found and shown as a table. You look through them before anything is
          added.
        </Text>
      </View>
      {read.isPending ? (
        <View className="gap-2">
          <Progress share={sent < 1 ? sent : null} words={sent < 1 ? 'Sending it …' : 'Reading it …'} />
          <Button kind="second" className="self-start" onPress={() => stop.current?.abort()}>
            Stop
          </Button>
        </View>
      ) : again.isPending ? (
        <View role="status" aria-label="Loading the outline" className="h-32 rounded-xl bg-line" />
      ) : (
        <Give
          onGiven={([first, ...others]) => {
            setWaiting(others);
            if (first) read.mutate(first);
          }}
        />
      )}
      <ProblemNotice problem={problem && problemOf(problem)} />
    </ScrollView>
  );
}
