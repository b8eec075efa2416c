import { firstName } from '@zephyrfield/core/words/text';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { View } from 'react-native';
import { problemOf } from '@/data/client';
import { newKey } from '@/data/key';
import { useLearner } from '@/data/learner';
import { useNotePeople, writeNote, type NoteInput } from '@/data/notes';
import { useItem } from '@/data/queries';
import { useLearnersTable } from '@/data/table';
import { Choices } from '@/ui/choices';
import { Choice } from '@/ui/field';
import { Sheet } from '@/ui/sheet';
import { Text } from '@/ui/text';
import { Ticks } from '@/ui/ticks';
import { NoteForm } from './note-form';

interface Props {
  /** Whom and what it is about, where that was said; empty else */
  about: { learnerId: string; item: string; recurrenceId: string };
  /** Its first thread, or null where the note waits to be sent */
  onWritten(thread: string | null): void;
  onClose(): void;
}

type Whom = 'all' | 'some' | 'several';

/** A new note: about whom, for whom of the people around them, or for the crews of several learners at once. */
export function WriteSheet({ about, onWritten, onClose }: Props) {
  const { learner: shown, learners } = useLearner()!;
  const [learnerId, setLearner] = useState(about.learnerId || shown.id);
  const [whom, setWhom] = useState<Whom>('all');
  const [members, setMembers] = useState<readonly string[]>([]);
  const [several, setSeveral] = useState<readonly string[]>([]);
  const [key] = useState(newKey);
  const item = useItem(about.item, about.recurrenceId, about.item !== '').data?.occurrence;
  const people = useNotePeople(learnerId, about.item).data ?? [];
  const others = learners.filter((l) => !l.isSelf);
  const groups = useLearnersTable('5', '').data?.groups ?? [];
  const learner = learners.find((l) => l.id === learnerId) ?? shown;
  const first = firstName(learner.name);
  const ways: (readonly [Whom, string])[] = [
    ['all', `everybody around ${first}`],
    ['some', 'some of them only'],
    ...(others.length > 1 && !about.item ? ([['several', 'several crews']] as const) : []),
  ];
  const send = useMutation({
    mutationFn: (input: NoteInput) =>
      writeNote(
        {
          ...about,
          learnerIds: whom === 'several' ? several : [learnerId],
          members: whom === 'some' ? members : null,
        },
        input,
        key,
      ),
    onSuccess: onWritten,
  });
  const isFor =
    whom === 'several'
      ? several.length
        ? `Each of the ${several.length} crews gets it alone; nobody sees the others`
        : 'Choose the learners'
      : whom === 'some'
        ? members.length
          ? 'Nobody else of the crew sees it'
          : 'Choose whom it is for'
        : `For everybody around ${first}, also who comes later`;
  return (
    <Sheet label="Write a note" roomy onClose={onClose}>
      <View className="gap-4">
        <View className="pr-10">
          <Text kind="title" heading={2}>
            Write a note
          </Text>
          {item ? <Text>{`About ${item.title}`}</Text> : null}
        </View>
        {learners.length > 1 && !about.item && whom !== 'several' ? (
          <Choice
            label="About"
            value={learnerId}
            options={learners.map((l) => ({ value: l.id, words: l.name }))}
            onChange={(e) => {
              setLearner(e.currentTarget.value);
              setMembers([]);
            }}
          />
        ) : null}
        <View className="gap-0.5">
          <Text kind="label">For</Text>
          <Choices<Whom> label="For" all={ways} value={whom} onChange={setWhom} />
        </View>
        {whom === 'some' ? (
          people.length ? (
            <Ticks
              label="Whom it is for"
              all={people.map((p) => [p.memberId, p.isSelf ? `${p.name}, the learner` : p.name] as const)}
              chosen={members}
              onChange={setMembers}
            />
          ) : (
            <Text kind="small">Nobody else sees this.</Text>
          )
        ) : null}
        {whom === 'several' ? (
          <>
            {groups.length ? (
              <Choices
                label="A group at once"
                all={groups.map((g) => [g.name, g.name] as const)}
                value={groups.find((g) => sameIds(g.learnerIds, several))?.name ?? ''}
                onChange={(name) => setSeveral(groups.find((g) => g.name === name)?.learnerIds ?? [])}
              />
            ) : null}
            <Ticks
              label="Whose crews"
              all={others.map((l) => [l.id, l.name] as const)}
              chosen={several}
              onChange={setSeveral}
            />
          </>
        ) : null}
        <NoteForm
          draft={`new ${about.item || about.learnerId}`}
          label="Your note"
          words="Send it"
          hint={isFor}
          busy={send.isPending}
          problem={send.error && problemOf(send.error)}
          onSend={(input) => send.mutateAsync(input)}
        />
      </View>
    </Sheet>
  );
}

const sameIds = (a: readonly string[], b: readonly string[]) =>
  a.length === b.length && a.every((id) => b.includes(id));
