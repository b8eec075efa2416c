import type { ItemView } from '@zephyrfield/core/api/schemas';
import { HAND_IN_WAYS, ITEM_KINDS, isWork, type HandInWay, type ItemKind } from '@zephyrfield/core/item/kind';
import { recurrenceIdOf } from '@zephyrfield/core/time/when';
import type { Zone } from '@zephyrfield/core/time/zone';
import { shortWhen } from '@zephyrfield/core/words/when';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { View } from 'react-native';
import { call, problemOf } from '@/data/client';
import { refreshLearner } from '@/data/queries';
import { ANSWERS, sayWhatItIs, sayWhetherSame } from '@/data/questions';
import { Answers } from '@/ui/answers';
import { Button } from '@/ui/button';
import { Choice } from '@/ui/field';
import { ProblemNotice } from '@/ui/notice';
import { Text } from '@/ui/text';
import { JoinItems } from './join-items';
import { HAND_IN_WORDS, KIND_WORDS } from '@zephyrfield/core/item/words';

interface Props {
  item: ItemView;
  learnerId: string;
  viewer: Zone;
}

/**
 * Where a person says that something was understood wrongly: what it is, how it is handed in, what belongs
 * together.
 */
export function ItemUnderstanding({ item, learnerId, viewer }: Props) {
  const client = useQueryClient();
  const onSuccess = () => refreshLearner(client, learnerId);
  const id = item.occurrence.itemId;
  const [open, setOpen] = useState(false);
  const window = useMutation({
    mutationFn: (joined: boolean) => call('joinWindow', { params: { id }, body: { joined } }),
    onSuccess,
  });
  const failure = window.error;
  return (
    <View className="gap-3">
      {item.doubt ? (
        <View role="group" aria-label="Is this work to do?" className="gap-1 rounded-xl bg-lagoon-wash p-3">
          <Text kind="strong">Is this work to do?</Text>
          <Text kind="small">
            {item.alike.count > 1
              ? `Its calendar does not say so clearly. Your answer counts for all ${item.alike.count} like it.`
              : 'Its calendar does not say so clearly.'}
          </Text>
          <Answers
            answers={ANSWERS}
            onAnswer={(kind) => void sayWhatItIs(learnerId, item.occurrence, kind)}
          />
        </View>
      ) : null}
      {item.duplicates.map((t) => (
        <View key={t.itemId} className="gap-1">
          <Text kind="small">
            {t.notDuplicate
              ? `Not the same as ${theOther(item, t)} in ${t.calendar}.`
              : `Also ${differsInName(item, t) ? `${theOther(item, t)} ` : ''}in ${t.calendar}${differs(item, t.when) ? `, there on ${shortWhen(t.when!, viewer)}` : ''}. Shown once.`}
          </Text>
          <Button
            kind="quiet"
            onPress={() =>
              void sayWhetherSame(learnerId, item.occurrence, t, t.notDuplicate, !t.notDuplicate)
            }
            className="-ml-4 self-start"
          >
            {t.notDuplicate ? 'It is the same' : 'It is not the same thing'}
          </Button>
        </View>
      ))}
      {item.window ? (
        <View className="gap-1">
          <Text kind="small">
            {item.window.joined
              ? `Joined from “${item.window.opens}” and “${item.window.closes}”.`
              : 'Shown separately from its opening.'}
          </Text>
          <Button
            kind="quiet"
            busy={window.isPending}
            onPress={() => window.mutate(!item.window!.joined)}
            className="-ml-4 self-start"
          >
            {item.window.joined ? 'Show separately' : 'Join again'}
          </Button>
        </View>
      ) : null}
      <JoinItems item={item} learnerId={learnerId} viewer={viewer} />
      <ProblemNotice problem={failure && problemOf(failure)} />
      {open ? (
        <Correction
          item={item}
          onDone={() => {
            setOpen(false);
            return onSuccess();
          }}
        />
      ) : (
        <Button kind="quiet" onPress={() => setOpen(true)} className="-ml-4 self-start">
          Correct this
        </Button>
      )}
    </View>
  );
}

type Other = ItemView['duplicates'][number];
const differsInName = ({ occurrence }: ItemView, { title }: Other) => title !== occurrence.title;
const theOther = (item: ItemView, other: Other) =>
  differsInName(item, other) ? `“${other.title}”` : 'the one';
const differs = ({ occurrence }: ItemView, when: ItemView['duplicates'][number]['when']) =>
  when !== null && recurrenceIdOf(when) !== recurrenceIdOf(occurrence.due ?? occurrence.start);

function Correction({ item: { occurrence, alike }, onDone }: { item: ItemView; onDone(): unknown }) {
  const [kind, setKind] = useState<ItemKind>(occurrence.kind);
  const [handIn, setHandIn] = useState<HandInWay>(occurrence.handIn);
  const [all, setAll] = useState(alike.count > 1);
  const save = useMutation({
    mutationFn: () =>
      call('correctItem', {
        params: { id: occurrence.itemId },
        body: { kind, ...(isWork(kind) ? { handIn } : {}), all: all && alike.count > 1 },
      }),
    onSuccess: onDone,
  });
  return (
    <View className="gap-3 rounded-xl bg-paper p-3" role="group" aria-label="Correct this">
      <Choice
        label="What it is"
        value={kind}
        onChange={(e) => setKind(e.currentTarget.value as ItemKind)}
        options={ITEM_KINDS.map((value) => ({ value, words: KIND_WORDS[value] }))}
      />
      {isWork(kind) ? (
        <Choice
          label="How it is handed in"
          value={handIn}
          onChange={(e) => setHandIn(e.currentTarget.value as HandInWay)}
          options={HAND_IN_WAYS.map((value) => ({ value, words: HAND_IN_WORDS[value] }))}
        />
      ) : null}
      {alike.count > 1 ? (
        <Choice
          label="For"
          value={all ? 'all' : 'one'}
          onChange={(e) => setAll(e.currentTarget.value === 'all')}
          options={[
            { value: 'all', words: `all ${alike.count} like “${alike.words} …”, and those to come` },
            { value: 'one', words: 'only this one' },
          ]}
        />
      ) : null}
      <ProblemNotice problem={save.error && problemOf(save.error)} />
      <View className="flex-row flex-wrap gap-2">
        <Button busy={save.isPending} onPress={() => save.mutate()}>
          Save
        </Button>
        <Button kind="second" onPress={() => void onDone()}>
          Cancel
        </Button>
      </View>
    </View>
  );
}
