import { CHANGEABLE_FOR, type NoteView } from '@zephyrfield/core/api/notes';
import { itemPath } from '@zephyrfield/core/notify/links';
import { instantOf } from '@zephyrfield/core/time/when';
import { shortWhen } from '@zephyrfield/core/words/when';
import { firstName } from '@zephyrfield/core/words/text';
import { useMutation } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { View } from 'react-native';
import { Link } from '@/router';
import { problemOf } from '@/data/client';
import { newKey } from '@/data/key';
import { useOutbox } from '@/data/outbox';
import { useLearner } from '@/data/learner';
import { answerNote, changeNote, markThread, putAway, useThread, type NoteInput } from '@/data/notes';
import { useNow } from '@/data/now';
import { Button } from '@/ui/button';
import { Cleat } from '@/ui/cleat';
import { LongField } from '@/ui/field';
import { lazyComponent } from '@/ui/lazy';
import { linkLook } from '@/ui/link-look';
import { ProblemNotice } from '@/ui/notice';
import { Sheet } from '@/ui/sheet';
import { Text } from '@/ui/text';
import { forWords } from './folded-slip';
import { NoteFiles } from './note-files';
import { NoteForm } from './note-form';

const Written = lazyComponent(() => import('@/ui/written').then((m) => m.Written));

/** A thread: what it is about, whom it is for, its notes in order, and the answer below them. */
export function ThreadSheet({ id, onClose }: { id: string; onClose(): void }) {
  const { data, error, isPending } = useThread(id);
  const [key, setKey] = useState(newKey);
  const answer = useMutation({
    mutationFn: (input: NoteInput) => answerNote(id, input, key),
    onSuccess: () => setKey(newKey()),
  });
  const waiting = useOutbox((s) => s.waiting);
  const lastUnread = data?.notes.findLast((n) => n.unread)?.id;
  // What is in sight is read.
  useEffect(() => {
    if (lastUnread !== undefined) void markThread(id, { readTo: lastUnread }).catch(() => {});
  }, [id, lastUnread]);
  const head = data?.head;
  return (
    <Sheet label={head ? `Notes about ${head.item?.title ?? head.learner}` : 'Notes'} roomy onClose={onClose}>
      <View className="gap-4">
        <ProblemNotice problem={error && problemOf(error)} />
        {isPending ? (
          <View role="status" aria-label="Loading the notes" className="h-32 rounded-lg bg-line" />
        ) : null}
        {head ? (
          <View className="gap-1 pr-10">
            <Text kind="title" heading={2}>
              {head.item ? (
                <Link
                  href={itemPath(head.item.id, head.item.recurrenceId, head.learnerId)}
                  className={linkLook('body')}
                >
                  {head.item.title}
                </Link>
              ) : (
                head.learner
              )}
            </Text>
            <Text kind="small">
              {[head.item ? firstName(head.learner) : '', head.item?.calendar, forWords(head)]
                .filter(Boolean)
                .join(' · ')}
            </Text>
            <View className="-ml-2 flex-row flex-wrap">
              <Button
                kind="quiet"
                className="px-2"
                aria-pressed={head.starred}
                onPress={() => void markThread(id, { starred: !head.starred })}
              >
                {head.starred ? 'Take the star off' : 'Star it'}
              </Button>
              <Button kind="quiet" className="px-2" onPress={() => void putAway(id, !head.done)}>
                {head.done ? 'Take it out again' : 'Put it away'}
              </Button>
            </View>
          </View>
        ) : null}
        <View role="list" aria-label="Notes" className="gap-3">
          {data?.notes.map((note) => (
            <OneNote key={note.id} note={note} threadId={id} />
          ))}
          {waiting.map((k) =>
            k.kind === 'answer' && k.thread === id ? (
              <View
                key={k.key}
                role="listitem"
                className="rounded-lg border border-dashed border-ink2 px-3 py-2"
              >
                <Text kind="small">{k.refused ? 'Not sent' : 'Not sent yet'}</Text>
                <Text dir="auto">{k.body.text}</Text>
              </View>
            ) : null,
          )}
        </View>
        {data ? (
          <NoteForm
            draft={id}
            label="Answer"
            words="Send the answer"
            hint={forWords(data.head)}
            busy={answer.isPending}
            problem={answer.error && problemOf(answer.error)}
            onSend={(input) => answer.mutateAsync(input)}
          />
        ) : null}
      </View>
    </Sheet>
  );
}

function OneNote({ note, threadId }: { note: NoteView; threadId: string }) {
  const { viewer } = useLearner()!;
  const now = useNow();
  const [editing, setEditing] = useState<string | null>(null);
  const change = useMutation({
    mutationFn: (text: string | null) => changeNote(threadId, note.id, text),
    onSuccess: () => setEditing(null),
  });
  const isFresh = now - Date.parse(note.at) <= CHANGEABLE_FOR;
  const when = (iso: string) => shortWhen(instantOf(Date.parse(iso)), viewer);
  return (
    <View
      role="listitem"
      className={`gap-1 border-l-[3px] pl-3 ${note.isOwn ? 'border-lagoon' : 'border-line'}`}
    >
      <View className="flex-row flex-wrap items-center gap-x-2">
        <Cleat name={note.by} />
        <Text kind="strong">{note.isOwn ? 'You' : note.by}</Text>
        <Text kind="small">
          {[
            when(note.at),
            note.byMail ? 'by mail' : '',
            note.corrected ? `corrected ${when(note.corrected)}` : '',
          ]
            .filter(Boolean)
            .join(' · ')}
        </Text>
      </View>
      {note.takenBack ? (
        <Text className="text-ink2">Taken back</Text>
      ) : editing === null ? (
        <Written text={note.text} />
      ) : (
        <View className="gap-2">
          <LongField
            label="Your note"
            hint={isFresh ? undefined : 'That it was corrected will be seen.'}
            rows={4}
            value={editing}
            onChange={(e) => setEditing(e.currentTarget.value)}
          />
          <View className="flex-row flex-wrap gap-2">
            <Button busy={change.isPending} disabled={!editing.trim()} onPress={() => change.mutate(editing)}>
              Save
            </Button>
            <Button kind="second" onPress={() => setEditing(null)}>
              Cancel
            </Button>
          </View>
        </View>
      )}
      <NoteFiles files={note.files} />
      <ProblemNotice problem={change.error && problemOf(change.error)} />
      {note.isOwn && !note.takenBack && editing === null ? (
        <View className="-ml-2 flex-row flex-wrap">
          <Button kind="quiet" className="px-2" onPress={() => setEditing(note.text)}>
            Correct it
          </Button>
          {isFresh ? (
            <Button kind="quiet" className="px-2" busy={change.isPending} onPress={() => change.mutate(null)}>
              Take it back
            </Button>
          ) : null}
        </View>
      ) : null}
    </View>
  );
}
