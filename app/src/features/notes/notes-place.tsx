import type { NoteBox } from '@zephyrfield/core/api/notes';
import { sentOnce } from '@zephyrfield/core/notify/sent';
import { plural } from '@zephyrfield/core/words/text';
import { useState } from 'react';
import { ScrollView, View } from 'react-native';
import { useLocalSearchParams, router } from '@/router';
import { problemOf } from '@/data/client';
import { useLearner } from '@/data/learner';
import { useThreads } from '@/data/notes';
import { useNow } from '@/data/now';
import { Button } from '@/ui/button';
import { Choices } from '@/ui/choices';
import { Contours } from '@/ui/contours';
import { Choice, Field } from '@/ui/field';
import { ProblemNotice } from '@/ui/notice';
import { PlaceHead } from '@/ui/place-head';
import { Text } from '@/ui/text';
import { SentSlip } from './folded-slip';
import { ThreadSheet } from './thread-sheet';
import { WriteSheet } from './write-sheet';

const BOXES = [
  ['unread', 'to read'],
  ['all', 'all'],
  ['starred', 'starred'],
  ['sent', 'sent'],
  ['done', 'put away'],
] as const satisfies readonly (readonly [NoteBox, string])[];

const NOTHING: Record<NoteBox, string> = {
  unread: 'You have read everything.',
  all: 'No notes yet. Write one to the people around a learner.',
  starred: 'Nothing is starred. Star a thread to find it again here.',
  sent: 'You have written nothing yet.',
  done: 'Nothing is put away.',
};

/** Notes between the people around a learner: lists of threads, and the one that is open beside them. */
export function NotesPlace() {
  const { learners, viewer } = useLearner()!;
  const now = useNow();
  const asked = useLocalSearchParams<{
    thread?: string;
    write?: string;
    of?: string;
    item?: string;
    recurrence?: string;
  }>();
  const [box, setBox] = useState<NoteBox>('all');
  const [text, setText] = useState('');
  const [more, setMore] = useState({ learner: '', course: '', person: '' });
  const [isFiltering, setFiltering] = useState(false);
  const narrowing = JSON.stringify([box, text, more]);
  // Older pages are of what was asked for then.
  const [older, setOlder] = useState<{ of: string; before: string[] }>({ of: '', before: [] });
  const before = older.of === narrowing ? older.before : [];
  const threads = useThreads({ box, text, ...more }, before);
  const { pages } = threads;
  const next = pages.length > before.length ? pages.at(-1)?.next : null;
  const unread = pages[0]?.unread ?? 0;
  const list = pages.flatMap((p) => p.threads);
  const open = (thread: string | null | undefined) =>
    router.setParams({ thread: thread ?? undefined, write: undefined });
  const isNarrowed = Object.values(more).some(Boolean);
  return (
    <View className="min-h-0 flex-1 flex-row">
      <ScrollView
        className="flex-1"
        contentContainerClassName="mx-auto w-full max-w-[760px] gap-3 px-4 pb-12 pt-3"
        keyboardShouldPersistTaps="handled"
      >
        <PlaceHead title="News" says={unread ? `${plural(unread, 'note')} to read` : 'All notes read'}>
          <Button onPress={() => router.setParams({ write: '1', thread: undefined })}>Write a note</Button>
        </PlaceHead>
        <Choices<NoteBox> label="Which notes" all={BOXES} value={box} onChange={setBox} />
        <View className="flex-row items-end gap-2">
          <View className="min-w-0 flex-1">
            <Field
              label="Find"
              type="search"
              value={text}
              maxLength={200}
              onChange={(e) => setText(e.currentTarget.value)}
            />
          </View>
          <Button
            kind="quiet"
            className="px-2"
            aria-expanded={isFiltering}
            onPress={() => setFiltering(!isFiltering)}
          >
            {isNarrowed ? 'Narrowed' : 'Narrow'}
          </Button>
        </View>
        {isFiltering ? (
          <View role="group" aria-label="Narrow" className="gap-3 rounded-xl bg-sheet p-4 wide:flex-row">
            {learners.length > 1 ? (
              <View className="flex-1">
                <Choice
                  label="About"
                  value={more.learner}
                  options={[
                    { value: '', words: 'anybody' },
                    ...learners.map((l) => ({ value: l.id, words: l.name })),
                  ]}
                  onChange={(e) => setMore({ ...more, learner: e.currentTarget.value })}
                />
              </View>
            ) : null}
            <View className="flex-1">
              <Field
                label="Course"
                value={more.course}
                onChange={(e) => setMore({ ...more, course: e.currentTarget.value })}
              />
            </View>
            <View className="flex-1">
              <Field
                label="Written by"
                value={more.person}
                onChange={(e) => setMore({ ...more, person: e.currentTarget.value })}
              />
            </View>
          </View>
        ) : null}
        <ProblemNotice problem={threads.error && problemOf(threads.error)} />
        {threads.isPending ? (
          <View role="status" aria-label="Loading the notes" className="h-32 rounded-xl bg-sheet" />
        ) : null}
        {sentOnce(list).map((heads) => (
          <SentSlip
            key={heads[0]!.id}
            heads={heads}
            openId={asked.thread}
            now={now}
            viewer={viewer}
            isOfSeveral={learners.length > 1}
            onOpen={open}
          />
        ))}
        {next ? (
          <Button
            kind="second"
            className="self-start"
            onPress={() => setOlder({ of: narrowing, before: [...before, next] })}
          >
            Show older ones
          </Button>
        ) : null}
        {!threads.isPending && !threads.error && !list.length ? (
          <View className="gap-4 pt-2">
            <Text>{text || isNarrowed ? 'Nothing is like that.' : NOTHING[box]}</Text>
            <Contours height={120} />
          </View>
        ) : null}
      </ScrollView>
      {asked.write ? (
        <WriteSheet
          about={{ learnerId: asked.of ?? '', item: asked.item ?? '', recurrenceId: asked.recurrence ?? '' }}
          onWritten={open}
          onClose={() =>
            router.setParams({ write: undefined, of: undefined, item: undefined, recurrence: undefined })
          }
        />
      ) : asked.thread ? (
        <ThreadSheet key={asked.thread} id={asked.thread} onClose={() => open(undefined)} />
      ) : null}
    </View>
  );
}
