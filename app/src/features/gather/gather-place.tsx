import { router } from 'expo-router';
import { ScrollView, View } from 'react-native';
import { problemOf } from '@/data/client';
import { useLearner } from '@/data/learner';
import { useNow } from '@/data/now';
import { useCalendars, useSources } from '@/data/queries';
import { Button } from '@/ui/button';
import { Contours } from '@/ui/contours';
import { ProblemNotice } from '@/ui/notice';
import { Text } from '@/ui/text';
import { SourceLine } from './source-line';

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
      <ProblemNotice problem={problem} />
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
