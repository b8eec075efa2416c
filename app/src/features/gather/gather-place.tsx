import type { CalendarView, Learner, SourceView } from '@zephyrfield/core/api/schemas';
import { routes } from '@zephyrfield/core/api/routes';
import { away, plural } from '@zephyrfield/core/view/words';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { router } from 'expo-router';
import RefreshCw from 'lucide-react-native/icons/refresh-cw';
import { useState } from 'react';
import { ScrollView, View } from 'react-native';
import { call, problemOf } from '@/data/client';
import { useLearner } from '@/data/learner';
import { useNow } from '@/data/now';
import { refreshLearner, useCalendars, useSources } from '@/data/queries';
import { Button } from '@/ui/button';
import { Contours } from '@/ui/contours';
import { Flag } from '@/ui/flag';
import { Notice } from '@/ui/notice';
import { Text } from '@/ui/text';

/** The Gather place: where everything comes from, one line a source. */
export function GatherPlace() {
  const { learner } = useLearner()!;
  const now = useNow();
  const sources = useSources(learner.id);
  const calendars = useCalendars(learner.id);
  const failure = sources.error ?? calendars.error;
  const problem = failure && problemOf(failure);
  const mayEdit = learner.access === 'edit';
  return (
    <ScrollView className="flex-1" contentContainerClassName="mx-auto w-full max-w-[760px] gap-4 px-4 pb-10 pt-3">
      <Text kind="display" heading={1}>
        Gather
      </Text>
      <Text className="text-ink2">Every calendar {learner.name.split(' ')[0]} has comes in here, once, by its link.</Text>
      {mayEdit ? (
        <Button onPress={() => router.push('/gather/follow')} className="self-start">
          Follow a link
        </Button>
      ) : null}
      {problem ? (
        <Notice kind="trouble" title={problem.title}>
          {problem.remedy}
        </Notice>
      ) : null}
      {sources.isPending ? <View role="status" aria-label="Loading the sources" className="h-24 rounded-xl bg-sheet" /> : null}
      {sources.data?.map((source) => (
        <SourceLine key={source.id} source={source} calendar={calendars.data?.find((c) => c.id === source.calendarId)} learner={learner} mayEdit={mayEdit} now={now} />
      ))}
      {sources.data?.length === 0 ? (
        <View className="gap-3">
          <Text>Nothing is gathered yet. On a course page, look for “subscribe”, “calendar feed” or “iCal” and copy that link.</Text>
          <Contours height={140} />
        </View>
      ) : null}
    </ScrollView>
  );
}

function SourceLine({ source, calendar, learner, mayEdit, now }: { source: SourceView; calendar: CalendarView | undefined; learner: Learner; mayEdit: boolean; now: number }) {
  const client = useQueryClient();
  const [asking, setAsking] = useState(false);
  const check = useMutation({ mutationFn: () => call(routes.readSource, { params: { id: source.id } }), onSettled: () => refreshLearner(client, learner.id) });
  const remove = useMutation({ mutationFn: () => call(routes.removeSource, { params: { id: source.id } }), onSettled: () => refreshLearner(client, learner.id) });
  const failure = check.error ?? remove.error;
  const problem = failure && problemOf(failure);
  const name = calendar?.name ?? 'Calendar';
  const ago = (iso: string | null) => (iso ? away(Date.parse(iso), now) : 'never');
  return (
    <View className="gap-2 rounded-xl bg-sheet px-4 py-3 shadow-sm" role="group" aria-label={name}>
      <View className="flex-row flex-wrap items-center gap-x-3 gap-y-2">
        {calendar ? <Flag colour={calendar.colour} flag={calendar.flag} size={22} /> : null}
        <View className="min-w-[160px] flex-1">
          <Text kind="lead" heading={2}>
            {name}
          </Text>
          <Text kind="small">
            Live link · {plural(source.entries, 'entry', 'entries')} · checked {ago(source.lastChecked)}
          </Text>
        </View>
        {mayEdit ? (
          <Button kind="second" icon={RefreshCw} busy={check.isPending} onPress={() => check.mutate()} aria-label={`Check ${name} now`}>
            Check now
          </Button>
        ) : null}
      </View>
      <Text kind="small">{source.address}</Text>
      {check.data && !source.trouble ? <CheckResult {...check.data} /> : null}
      {source.trouble ? (
        <Notice kind="warning" title={source.trouble.message}>
          <Text>
            Since {ago(source.trouble.since)}. What you see is from {ago(source.lastGood)}; nothing is lost. {source.trouble.remedy}
          </Text>
        </Notice>
      ) : null}
      {problem ? (
        <Notice kind="trouble" title={problem.title}>
          {problem.remedy}
        </Notice>
      ) : null}
      {source.warnings.length ? <Text kind="small">{plural(source.warnings.length, 'thing')} in it could not be read.</Text> : null}
      {mayEdit && !asking ? (
        <Button kind="quiet" onPress={() => setAsking(true)} className="-ml-4 self-start" aria-label={`Stop following ${name}`}>
          Stop following
        </Button>
      ) : null}
      {asking ? (
        <Notice kind="warning" title={`Stop following ${name}?`}>
          <View className="gap-2">
            <Text>The calendar, its {plural(source.entries, 'entry', 'entries')} and what was ticked off in it go. The course itself is not touched, and you can follow the link again.</Text>
            <View className="flex-row flex-wrap gap-2">
              <Button busy={remove.isPending} onPress={() => remove.mutate()}>
                Take it away
              </Button>
              <Button kind="second" onPress={() => setAsking(false)}>
                Keep it
              </Button>
            </View>
          </View>
        </Notice>
      ) : null}
    </View>
  );
}

function CheckResult({ unchanged, added, changed, gone }: { unchanged: boolean; added: number; changed: number; gone: number }) {
  const words = [added ? `${added} new` : null, changed ? `${changed} changed` : null, gone ? `${gone} gone` : null].filter(Boolean).join(', ');
  return (
    <Text kind="label" role="status" className="text-fern">
      {unchanged ? 'Checked: nothing has changed.' : `Checked: ${words}.`}
    </Text>
  );
}
