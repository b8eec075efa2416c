import { agenda as makeAgenda, type AgendaEntry } from '@zephyrfield/core/view/agenda';
import { civilDate } from '@zephyrfield/core/time/civil';
import { monthName, plural, today } from '@zephyrfield/core/view/words';
import { Link, router, useLocalSearchParams } from 'expo-router';
import { useMemo } from 'react';
import { View } from 'react-native';
import { problemOf } from '@/data/client';
import { useLearner } from '@/data/learner';
import { useNow } from '@/data/now';
import { useCalendars, useChanges, useFinish, useOccurrences } from '@/data/queries';
import { useScreen } from '@/data/screen';
import { Button } from '@/ui/button';
import { Contours } from '@/ui/contours';
import { Notice } from '@/ui/notice';
import { Text } from '@/ui/text';
import { AgendaList } from './agenda-list';
import { FlagLine, HiddenLine } from './flag-line';
import { ItemSheet } from './item-sheet';

/** The Calendar place: all calendars in one list, under the flag line, with an item's sheet beside or over it. */
export function CalendarPlace() {
  const { learner, viewer } = useLearner()!;
  const now = useNow();
  const { item, at = '' } = useLocalSearchParams<{ item?: string; at?: string }>();
  const calendars = useCalendars(learner.id);
  const occurrences = useOccurrences(learner.id, now);
  const finish = useFinish(learner.id);
  const changes = useChanges(learner.id);
  const news = changes.data?.filter((c) => !c.seen).length ?? 0;
  const hidden = useScreen((s) => s.hidden);
  const agenda = useMemo(() => makeAgenda(occurrences.data ?? [], { now, viewer, hidden: new Set(hidden) }), [occurrences.data, now, viewer, hidden]);

  const failure = calendars.error ?? occurrences.error ?? finish.error;
  const problem = failure && problemOf(failure);
  const mayTick = learner.access !== 'look';
  const open = ({ occurrence }: AgendaEntry) => {
    const params = { item: occurrence.itemId, at: occurrence.key };
    // One step back from an item is the list, however many were looked at from it.
    if (item) router.setParams(params);
    else router.push({ pathname: '/calendar', params });
  };
  const close = () => (router.canGoBack() ? router.back() : router.setParams({ item: undefined, at: undefined }));
  const { year, month } = civilDate(today(now, viewer));

  return (
    <View className="flex-1 flex-row">
      <View className="min-w-0 flex-1">
        <View className="flex-row flex-wrap items-center justify-between gap-x-3 px-4 pt-3">
          <Text kind="display" heading={1}>
            {monthName(month)} {year}
          </Text>
          {news ? (
            <Link href="/changes" className="min-h-touch content-center font-text text-small font-bold text-lagoon underline">
              {plural(news, 'change')} since you looked
            </Link>
          ) : null}
        </View>
        {calendars.data?.length ? <FlagLine calendars={calendars.data} open={agenda.open} /> : null}
        {calendars.data ? <HiddenLine hidden={agenda.hidden} calendars={calendars.data} /> : null}
        {problem ? (
          <View className="px-4 py-2">
            <Notice kind="trouble" title={problem.title}>
              {problem.remedy}
            </Notice>
          </View>
        ) : null}
        {calendars.isPending || occurrences.isPending ? <Waiting /> : null}
        {calendars.data?.length === 0 ? <Empty mayEdit={learner.access === 'edit'} name={learner.name} /> : null}
        {calendars.data?.length && occurrences.data ? (
          <AgendaList
            agenda={agenda}
            calendars={calendars.data}
            now={now}
            viewer={viewer}
            chosen={item ? { id: item, key: at } : null}
            onOpen={open}
            onFinish={mayTick ? ({ occurrence }) => finish.mutate({ occurrence, finished: !occurrence.finished }) : undefined}
          />
        ) : null}
      </View>
      {item && calendars.data ? (
        <ItemSheet
          key={`${item} ${at}`}
          id={item}
          occurrenceKey={at}
          learnerId={learner.id}
          mayTick={mayTick}
          mayEdit={learner.access === 'edit'}
          calendars={calendars.data}
          now={now}
          viewer={viewer}
          onClose={close}
        />
      ) : null}
    </View>
  );
}

/** The shape of what is coming, while it is on its way. */
function Waiting() {
  return (
    <View role="status" aria-label="Loading the calendars" className="gap-3 px-4 pt-6">
      {[0, 1, 2, 3, 4].map((i) => (
        <View key={i} className="h-[68px] flex-row overflow-hidden rounded-lg bg-sheet">
          <View className="w-[5px] bg-line" />
          <View className="flex-1" />
          <View className="bg-line/50 w-[96px]" />
        </View>
      ))}
    </View>
  );
}

function Empty({ mayEdit, name }: { mayEdit: boolean; name: string }) {
  return (
    <View className="flex-1 gap-4 px-4 pt-6">
      <Text kind="title" heading={2}>
        No calendar yet
      </Text>
      <Text className="max-w-[520px]">
        {mayEdit ? 'Follow the calendar link of each course, once. From then on everything that is due stands here, in one list.' : `Nobody has gathered a calendar for ${name} yet.`}
      </Text>
      {mayEdit ? (
        <Button onPress={() => router.push('/gather/follow')} className="self-start">
          Follow a link
        </Button>
      ) : null}
      <Contours height={160} />
    </View>
  );
}
