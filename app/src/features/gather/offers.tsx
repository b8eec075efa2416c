import type { OfferView } from '@zephyrfield/core/api/publish';
import type { Learner } from '@zephyrfield/core/api/schemas';
import { firstName, plural } from '@zephyrfield/core/words/text';
import { shortWhen, type Viewer } from '@zephyrfield/core/words/when';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { View } from 'react-native';
import { problemOf } from '@/data/client';
import { answerOffer, useOffers } from '@/data/publish';
import { Button } from '@/ui/button';
import { Flag } from '@/ui/flag';
import { ProblemNotice } from '@/ui/notice';
import { Text } from '@/ui/text';
import { Ticks } from '@/ui/ticks';

/** Calendars that are offered to a schedule: each is taken in by one press, or not wanted. */
export function Offers({ learner, viewer, mayEdit }: { learner: Learner; viewer: Viewer; mayEdit: boolean }) {
  const offers = useOffers(learner.id);
  return offers.data?.map((offer) => (
    <OfferLine key={offer.id} offer={offer} learner={learner} viewer={viewer} mayEdit={mayEdit} />
  ));
}

function OfferLine({
  offer: { id, by, name, colour, flag, count, next },
  learner,
  viewer,
  mayEdit,
}: {
  offer: OfferView;
  learner: Learner;
  viewer: Viewer;
  mayEdit: boolean;
}) {
  const [along, setAlong] = useState<readonly string[]>(['reminders']);
  const answer = useMutation({
    mutationFn: (take: boolean) =>
      answerOffer(learner.id, id, { take, reminders: along.includes('reminders') }),
  });
  return (
    <View
      role="group"
      aria-label={`${name}, offered by ${by}`}
      className="gap-2 rounded-xl border-2 border-dashed border-lagoon bg-sheet px-4 py-3"
    >
      <View className="flex-row items-center gap-3">
        <Flag colour={colour} flag={flag} size={24} />
        <View className="min-w-0 flex-1">
          <Text kind="lead" heading={2}>
            {name}
          </Text>
          <Text kind="small">{`${by} offers it to ${learner.isSelf ? 'you' : firstName(learner.name)} · ${plural(count, 'item')}`}</Text>
        </View>
      </View>
      {next.map(({ title, when }, n) => (
        <View key={n} className="flex-row flex-wrap gap-x-3">
          <Text className="min-w-[150px] flex-1">{title}</Text>
          <Text kind="small">{shortWhen(when, viewer)}</Text>
        </View>
      ))}
      <Text kind="small">
        {`It stays up to date by itself. ${firstName(by)} sees in how many families an item was opened, never in which.`}
      </Text>
      {mayEdit ? (
        <>
          <Ticks
            label="Along with it"
            all={[['reminders', `the reminders that ${firstName(by)} suggests`]]}
            chosen={along}
            onChange={setAlong}
          />
          <ProblemNotice problem={answer.error && problemOf(answer.error)} />
          <View className="flex-row flex-wrap gap-2">
            <Button busy={answer.isPending} onPress={() => answer.mutate(true)}>
              Take it in
            </Button>
            <Button kind="second" disabled={answer.isPending} onPress={() => answer.mutate(false)}>
              No, thank you
            </Button>
          </View>
        </>
      ) : (
        <Text kind="small">Whoever may edit this schedule can take it in.</Text>
      )}
    </View>
  );
}
