import type { OpenTimesView } from '@zephyrfield/core/api/open-times';
import type { Learner } from '@zephyrfield/core/api/schemas';
import { instantOf } from '@zephyrfield/core/time/when';
import { plural } from '@zephyrfield/core/words/text';
import { shortWhen, type Viewer } from '@zephyrfield/core/words/when';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { View } from 'react-native';
import { problemOf } from '@/data/client';
import { useLearner } from '@/data/learner';
import { endTimes, giveBack, useOfferedTimes } from '@/data/open-times';
import { useNow } from '@/data/now';
import { Link } from '@/router';
import { Button } from '@/ui/button';
import { Field } from '@/ui/field';
import { linkLook } from '@/ui/link-look';
import { ProblemNotice } from '@/ui/notice';
import { Part } from '@/ui/part';
import { Text } from '@/ui/text';
import { OfferTimes } from './offer-times';

/** The times one offers oneself: what is taken by whom, with the words that were left. */
export function OfferedTimes({ own, learners }: { own: Learner | null; learners: readonly Learner[] }) {
  const { viewer } = useLearner()!;
  const offered = useOfferedTimes();
  const [making, setMaking] = useState(false);
  const list = offered.data ?? [];
  return (
    <Part title="Times you offer" aside="">
      {!own ? (
        <Text>
          What is taken stands in a schedule of your own: begin one under{' '}
          <Link href="/for-others" className={linkLook('body')}>
            Calendars for others
          </Link>
          .
        </Text>
      ) : making ? (
        <OfferTimes own={own} learners={learners} onClose={() => setMaking(false)} />
      ) : (
        <Button className="self-start" onPress={() => setMaking(true)}>
          Offer times
        </Button>
      )}
      <ProblemNotice problem={offered.error && problemOf(offered.error)} />
      {list.map((each) => (
        <Offered key={each.id} times={each} viewer={viewer} />
      ))}
    </Part>
  );
}

function Offered({ times, viewer }: { times: OpenTimesView; viewer: Viewer }) {
  const now = useNow();
  const end = useMutation({ mutationFn: () => endTimes(times.id) });
  const ahead = times.slots.filter((s) => Date.parse(s.end) > now);
  const taken = ahead.filter((s) => s.taken.length);
  const [showsFree, setShowsFree] = useState(false);
  const at = (iso: string) => shortWhen(instantOf(Date.parse(iso)), viewer);
  if (!ahead.length) return null;
  const free = ahead.length - taken.length;
  return (
    <View role="group" aria-label={times.title} className="gap-2 rounded-xl bg-sheet px-4 py-3 shadow-sm">
      <View>
        <Text kind="lead" heading={3}>
          {times.title}
        </Text>
        <Text kind="small">
          {[
            times.place,
            `${taken.length} taken, ${free} free`,
            `for ${times.learners.map((n) => n.split(' ')[0]).join(', ')}`,
            times.ended ? 'not offered any more' : '',
          ]
            .filter(Boolean)
            .join(' · ')}
        </Text>
      </View>
      {taken.flatMap((slot) =>
        slot.taken.map((b) => <TakenBy key={b.booking} when={at(slot.start)} booking={b} />),
      )}
      {showsFree ? (
        <Text kind="small">
          {ahead
            .filter((s) => !s.taken.length)
            .map((s) => at(s.start))
            .join(' · ')}
        </Text>
      ) : null}
      <ProblemNotice problem={end.error && problemOf(end.error)} />
      <View className="-ml-2 flex-row flex-wrap">
        {free ? (
          <Button kind="quiet" className="px-2" onPress={() => setShowsFree(!showsFree)}>
            {showsFree ? 'Hide what is free' : `Show what is free`}
          </Button>
        ) : null}
        {times.ended ? null : (
          <Button kind="quiet" className="px-2" busy={end.isPending} onPress={() => end.mutate()}>
            {`Stop offering ${plural(free, 'time')}`}
          </Button>
        )}
      </View>
    </View>
  );
}

function TakenBy({
  when,
  booking,
}: {
  when: string;
  booking: OpenTimesView['slots'][number]['taken'][number];
}) {
  const [isGiving, setGiving] = useState(false);
  const [word, setWord] = useState('');
  const give = useMutation({ mutationFn: () => giveBack(booking.booking, word) });
  const first = booking.learner.split(' ')[0]!;
  return (
    <View className="gap-1 border-t border-dashed border-line pt-1">
      <View className="flex-row flex-wrap items-center gap-x-3">
        <Text kind="strong">{when}</Text>
        <Text className="min-w-[120px] flex-1">
          {booking.learner}
          <Text kind="small">{booking.by && booking.by !== booking.learner ? `, by ${booking.by}` : ''}</Text>
        </Text>
        <Button
          kind="quiet"
          className="px-2"
          aria-expanded={isGiving}
          aria-label={`Call off ${when} with ${first}`}
          onPress={() => setGiving(!isGiving)}
        >
          Call it off
        </Button>
      </View>
      {booking.word ? <Text className="text-ink2">{`“${booking.word}”`}</Text> : null}
      {isGiving ? (
        <View className="gap-2 pb-1">
          <Field
            label={`A word to ${first} and whoever is around them`}
            value={word}
            maxLength={500}
            onChange={(e) => setWord(e.currentTarget.value)}
          />
          <ProblemNotice problem={give.error && problemOf(give.error)} />
          <Button className="self-start" busy={give.isPending} onPress={() => give.mutate()}>
            Call it off
          </Button>
        </View>
      ) : null}
    </View>
  );
}
