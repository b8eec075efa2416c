import { suffices } from '@zephyrfield/core/item/access';
import type { CalendarView } from '@zephyrfield/core/api/schemas';
import { shownElsewhere } from '@zephyrfield/core/view/elsewhere';
import { firstName } from '@zephyrfield/core/words/text';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import FileSearch from 'lucide-react-native/icons/file-search';
import Link from 'lucide-react-native/icons/link';
import { router } from '@/router';
import { useMemo, useState } from 'react';
import { ScrollView, View } from 'react-native';
import { call, problemOf } from '@/data/client';
import { useLearner } from '@/data/learner';
import { useNow } from '@/data/now';
import { refreshLearner, useCalendars, useOccurrences, useSources } from '@/data/queries';
import { Button } from '@/ui/button';
import { Contours } from '@/ui/contours';
import { Flag } from '@/ui/flag';
import { ProblemNotice } from '@/ui/notice';
import { PlaceHead } from '@/ui/place-head';
import { Text } from '@/ui/text';
import { ChangeCalendar } from './change-calendar';
import { useChosenFiles } from './chosen-files';
import { FileDrop } from '@/ui/file-drop';
import { KeptOutlines } from './kept-outlines';
import { Offers } from './offers';
import { PastWork } from './past-work';
import { Questions } from './questions';
import { SourceLine } from './source-line';

/** The Gather place: where everything comes from, one line a source. */
export function GatherPlace() {
  const { learner, viewer } = useLearner()!;
  const now = useNow();
  const sources = useSources(learner.id);
  const calendars = useCalendars(learner.id);
  const failure = sources.error ?? calendars.error;
  const problem = failure && problemOf(failure);
  const mayEdit = suffices(learner.access, 'edit');
  const gathered = new Set(sources.data?.flatMap((s) => s.calendarIds));
  const ungathered = sources.data && calendars.data ? calendars.data.filter((c) => !gathered.has(c.id)) : [];
  const records = ungathered.filter((c) => !c.handMade);
  const own = ungathered.filter((c) => c.handMade);
  const occurrences = useOccurrences(learner.id, now).data;
  const elsewhere = useMemo(() => shownElsewhere(occurrences ?? []), [occurrences]);
  return (
    <ScrollView
      className="flex-1"
      contentContainerClassName="mx-auto w-full max-w-[760px] gap-4 px-4 pb-10 pt-3"
    >
      <PlaceHead title="Gather" />
      <Text className="text-ink2">
        Every calendar {firstName(learner.name)} has comes in here, once: by its link, which stays live, or as
        a file, which is a copy of its day.
      </Text>
      {mayEdit ? (
        <View className="flex-row flex-wrap gap-2">
          <Button icon={Link} onPress={() => router.push('/gather/follow')}>
            Follow a link
          </Button>
          <Button kind="second" icon={FileSearch} onPress={() => router.push('/outline')}>
            Read an outline
          </Button>
        </View>
      ) : null}
      <ProblemNotice problem={problem} />
      {!suffices(learner.access, 'tick') ? null : <PastWork />}
      <Offers learner={learner} viewer={viewer} mayEdit={mayEdit} />
      {mayEdit ? <Questions /> : null}
      {sources.isPending ? (
        <View role="status" aria-label="Loading the sources" className="h-24 rounded-xl bg-sheet" />
      ) : null}
      {sources.data?.map((source) => (
        <SourceLine
          key={source.id}
          source={source}
          calendars={calendars.data?.filter((c) => source.calendarIds.includes(c.id)) ?? []}
          learner={learner}
          mayEdit={mayEdit}
          now={now}
          elsewhere={source.calendarIds.flatMap((id) =>
            (elsewhere.get(id) ?? []).map(
              (e) =>
                `${e.count} shown in ${calendars.data?.find((c) => c.id === e.calendarId)?.name ?? 'another'}`,
            ),
          )}
          onNewerCopy={() => router.push('/gather/files')}
        />
      ))}
      {sources.data?.length === 0 ? (
        <View className="gap-3">
          <Text>No calendars yet. Follow the link of your first course calendar.</Text>
          <Contours height={140} />
        </View>
      ) : null}
      <KeptOutlines
        learnerId={learner.id}
        calendars={calendars.data ?? []}
        viewer={viewer}
        mayEdit={mayEdit}
      />
      {own.length ? (
        <Ungathered
          title="Your own"
          words="Calendars you keep yourself."
          forgets="Delete"
          calendars={own}
          mayEdit={mayEdit}
        />
      ) : null}
      {records.length ? (
        <Ungathered
          title="Kept records"
          words="No longer followed. What was ticked off is kept."
          forgets="Delete them"
          calendars={records}
          mayEdit={mayEdit}
        />
      ) : null}
      {mayEdit ? (
        <FileDrop
          onFiles={(files) => {
            useChosenFiles.getState().add(files);
            router.push('/gather/files');
          }}
        >
          <Text kind="small">
            A file does not update by itself. Read a newer copy to bring it up to date.
          </Text>
        </FileDrop>
      ) : null}
    </ScrollView>
  );
}

/** Calendars that come from nowhere: begun by hand, or followed no more but with records kept. */
function Ungathered({
  title,
  words,
  forgets,
  calendars,
  mayEdit,
}: {
  title: string;
  words: string;
  forgets: string;
  calendars: CalendarView[];
  mayEdit: boolean;
}) {
  const [changing, setChanging] = useState<string | null>(null);
  const client = useQueryClient();
  const forget = useMutation({
    mutationFn: (id: string) => call('forgetCalendar', { params: { id } }),
    onSettled: () => refreshLearner(client, calendars[0]!.learnerId),
  });
  return (
    <View className="gap-2">
      <Text kind="lead" heading={2}>
        {title}
      </Text>
      <Text kind="small">{words}</Text>
      <ProblemNotice problem={forget.error && problemOf(forget.error)} />
      {calendars.map((calendar) => (
        <View key={calendar.id} className="gap-2 rounded-xl bg-sheet px-4 py-1">
          <View className="flex-row flex-wrap items-center gap-x-3">
            <Flag colour={calendar.colour} flag={calendar.flag} size={22} />
            <Text className="min-w-[8rem] flex-1">{calendar.name}</Text>
            {mayEdit ? (
              <Button
                kind="quiet"
                busy={forget.isPending}
                onPress={() => forget.mutate(calendar.id)}
                aria-label={
                  forgets === 'Delete them'
                    ? `Delete the records of ${calendar.name}`
                    : `Take ${calendar.name} away`
                }
              >
                {forgets}
              </Button>
            ) : null}
            {mayEdit && calendar.handMade ? (
              <Button
                kind="quiet"
                aria-expanded={changing === calendar.id}
                onPress={() => setChanging(changing === calendar.id ? null : calendar.id)}
                aria-label={`Change ${calendar.name}`}
              >
                Change
              </Button>
            ) : null}
          </View>
          {changing === calendar.id ? (
            <ChangeCalendar calendar={calendar} isCopy={false} onDone={() => setChanging(null)} />
          ) : null}
        </View>
      ))}
    </View>
  );
}
