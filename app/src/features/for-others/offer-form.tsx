import type { Publication } from '@zephyrfield/core/api/publish';
import type { CalendarView, Learner } from '@zephyrfield/core/api/schemas';
import { firstName } from '@zephyrfield/core/words/text';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { View } from 'react-native';
import { problemOf } from '@/data/client';
import { useLearner } from '@/data/learner';
import { publish } from '@/data/publish';
import { Button } from '@/ui/button';
import { Notice, ProblemNotice } from '@/ui/notice';
import { Text } from '@/ui/text';
import { Ticks } from '@/ui/ticks';

const STATE_WORDS = {
  open: 'has not answered yet',
  taken: 'follows it',
  declined: 'did not want it',
} as const;

interface Props {
  own: Learner;
  calendar: CalendarView;
  publication: Publication | undefined;
  onClose(): void;
}

/** Which learners a calendar is offered to. What is taken back is said before it is. */
export function OfferForm({ own, calendar, publication, onClose }: Props) {
  const learners = useLearner()!.learners.filter((l) => l.id !== own.id);
  const states = new Map(publication?.to.map((o) => [o.learnerId, o.state]));
  const [chosen, setChosen] = useState<readonly string[]>(
    [...states].flatMap(([id, state]) => (state === 'declined' ? [] : [id])),
  );
  const save = useMutation({
    mutationFn: () => publish(own.id, calendar.id, chosen),
    onSuccess: onClose,
  });
  const nameOf = (id: string) => firstName(learners.find((l) => l.id === id)?.name ?? '');
  const ended = [...states].filter(([id, state]) => state === 'taken' && !chosen.includes(id));
  const asked = chosen.filter((id) => !states.has(id) || states.get(id) === 'declined');
  if (!learners.length)
    return (
      <Text>
        You see no learner’s schedule yet. Whoever keeps one can invite you; then you can offer it there.
      </Text>
    );
  return (
    <View className="gap-3 border-t border-dashed border-line pt-3">
      <Ticks
        label="Who is to follow it"
        all={learners.map(({ id, name }) => {
          const state = states.get(id);
          return [id, state ? `${name}, ${STATE_WORDS[state]}` : name] as const;
        })}
        chosen={chosen}
        onChange={setChosen}
      />
      {asked.length ? (
        <Text kind="small">
          {`${asked.map(nameOf).join(', ')}: whoever may edit the schedule is asked once, and takes it in by one press.`}
        </Text>
      ) : null}
      {ended.length ? (
        <Notice kind="warning" title={`It is taken back from ${ended.map(([id]) => nameOf(id)).join(', ')}.`}>
          Its entries go there. What was ticked off stays.
        </Notice>
      ) : null}
      <ProblemNotice problem={save.error && problemOf(save.error)} />
      <View className="flex-row flex-wrap gap-2">
        <Button busy={save.isPending} onPress={() => save.mutate()}>
          Save
        </Button>
        <Button kind="second" onPress={onClose}>
          Cancel
        </Button>
      </View>
    </View>
  );
}
