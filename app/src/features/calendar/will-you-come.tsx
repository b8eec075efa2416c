import type { ANSWERS } from '@zephyrfield/core/api/open-times';
import type { OccurrenceView } from '@zephyrfield/core/api/schemas';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { View } from 'react-native';
import { problemOf } from '@/data/client';
import { askToCome, remindToAnswer, sayComing, useReplies } from '@/data/open-times';
import { useSeeAs } from '@/data/see-as';
import { Button } from '@/ui/button';
import { Choices } from '@/ui/choices';
import { Field } from '@/ui/field';
import { ProblemNotice } from '@/ui/notice';
import { Text } from '@/ui/text';

type Answer = (typeof ANSWERS)[number];
const WORDS = [
  ['yes', 'yes'],
  ['perhaps', 'perhaps'],
  ['no', 'no'],
] as const satisfies readonly (readonly [Answer, string])[];

/** "Will you come?" of an event: one’s own answer, and for who asks, what the others have said. */
export function WillYouCome({
  occurrence: { itemId, recurrenceId },
}: {
  occurrence: Pick<OccurrenceView, 'itemId' | 'recurrenceId'>;
}) {
  const { data } = useReplies(itemId, recurrenceId);
  const [word, setWord] = useState('');
  const ask = useMutation({ mutationFn: (asks: boolean) => askToCome(itemId, asks) });
  const say = useMutation({
    mutationFn: (answer: Answer) => sayComing(itemId, { recurrenceId, answer, word }),
  });
  const remind = useMutation({ mutationFn: () => remindToAnswer(itemId) });
  const isSeenAs = useSeeAs((s) => s.as !== null);
  if (!data || isSeenAs) return null;
  const failure = ask.error ?? say.error ?? remind.error;
  if (!data.asked)
    return data.mayAsk ? (
      <Button kind="quiet" className="-ml-4 self-start" busy={ask.isPending} onPress={() => ask.mutate(true)}>
        Ask “Will you come?”
      </Button>
    ) : null;
  const { counts, said, open, reminded } = data;
  return (
    <View role="group" aria-label="Will you come?" className="gap-2">
      <Text kind="lead" heading={3}>
        Will you come?
      </Text>
      {data.mayAsk ? (
        <>
          <Text>{`${counts.yes} yes · ${counts.perhaps} perhaps · ${counts.no} no · ${open.length} not answered`}</Text>
          {said.map(({ name, answer, word: left }) => (
            <Text key={name}>
              {`${name}: ${answer}`}
              {left ? <Text className="text-ink2">{`, “${left}”`}</Text> : null}
            </Text>
          ))}
          {open.length ? <Text kind="small">{`Not answered yet: ${open.join(', ')}`}</Text> : null}
          <View className="-ml-2 flex-row flex-wrap">
            {open.length && !reminded ? (
              <Button kind="quiet" className="px-2" busy={remind.isPending} onPress={() => remind.mutate()}>
                Remind them, once
              </Button>
            ) : null}
            <Button kind="quiet" className="px-2" busy={ask.isPending} onPress={() => ask.mutate(false)}>
              Ask no more
            </Button>
          </View>
          {reminded ? <Text kind="small">Those who had not answered were reminded.</Text> : null}
        </>
      ) : (
        <>
          <Field
            label="A word with it"
            value={word}
            maxLength={500}
            onChange={(e) => setWord(e.currentTarget.value)}
          />
          <Choices<Answer | ''>
            label="Will you come?"
            all={WORDS}
            value={data.own ?? ''}
            onChange={(answer) => answer && say.mutate(answer)}
          />
          <Text kind="small" role="status">
            {say.isPending ? 'Sending …' : data.own ? `You said ${data.own}.` : 'Not answered yet.'}
          </Text>
        </>
      )}
      <ProblemNotice problem={failure && problemOf(failure)} />
    </View>
  );
}
