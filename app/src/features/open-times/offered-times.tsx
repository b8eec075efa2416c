import type { OpenTimesView } from '@zephyrfield/core/api/open-times';
import type { Learner } from '@zephyrfield/core/api/schemas';
import { instantOf } from '@zephyrfield/core/time/when';
import { firstName, plural } from '@zephyrfield/core/words/text';
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
import { Choice, Field } from '@/ui/field';
import { linkLook } from '@/ui/link-look';
import { Notice, ProblemNotice } from '@/ui/notice';
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
  const withheld = ahead.filter((s) => s.withheld && !s.taken.length);
  const free = ahead.filter((s) => !s.withheld && !s.taken.length);
  return (
    <View role="group" aria-label={times.title} className="gap-2 rounded-xl bg-sheet px-4 py-3 shadow-sm">
      <View>
        <Text kind="lead" heading={3}>
          {times.title}
        </Text>
        <Text kind="small">
          {[
            times.place,
            `${taken.length} taken, ${free.length} free`,
            `for ${times.learners.map((n) => firstName(n)).join(', ')}`,
            times.ended ? 'not offered any more' : '',
          ]
            .filter(Boolean)
            .join(' · ')}
        </Text>
      </View>
      {withheld.length ? (
        <Text kind="small">
          {`Not offered while you have something else then: ${withheld.map((s) => at(s.start)).join(', ')}`}
        </Text>
      ) : null}
      {taken.flatMap((slot) =>
        slot.taken.map((b) => (
          <TakenBy
            key={b.booking}
            when={at(slot.start)}
            booking={b}
            others={ahead
              .filter((s) => s.id !== slot.id && s.taken.length < times.places && Date.parse(s.start) > now)
              .map((s) => ({ value: s.id, words: at(s.start) }))}
          />
        )),
      )}
      {showsFree ? <Text kind="small">{free.map((s) => at(s.start)).join(' · ')}</Text> : null}
      <ProblemNotice problem={end.error && problemOf(end.error)} />
      <View className="-ml-2 flex-row flex-wrap">
        {free.length ? (
          <Button kind="quiet" className="px-2" onPress={() => setShowsFree(!showsFree)}>
            {showsFree ? 'Hide what is free' : `Show what is free`}
          </Button>
        ) : null}
        {times.ended ? null : (
          <Button kind="quiet" className="px-2" busy={end.isPending} onPress={() => end.mutate()}>
            {`Stop offering ${plural(free.length + withheld.length, 'time')}`}
          </Button>
        )}
      </View>
    </View>
  );
}

/** Calling off and moving are two ways to change what somebody has taken; either takes a word along. */
function TakenBy({
  when,
  booking,
  others,
}: {
  when: string;
  booking: OpenTimesView['slots'][number]['taken'][number];
  /** Times of the same offer that it can be moved to */
  others: readonly { value: string; words: string }[];
}) {
  const [doing, setDoing] = useState<'move' | 'callOff' | null>(null);
  const [word, setWord] = useState('');
  const [chosen, setTo] = useState('');
  const to = others.some((o) => o.value === chosen) ? chosen : (others[0]?.value ?? '');
  const change = useMutation({
    mutationFn: () => giveBack(booking.booking, word, doing === 'move' ? to : undefined),
    onSuccess: ({ taken }) => taken && setDoing(null),
  });
  const first = firstName(booking.learner);
  const turn = (what: 'move' | 'callOff', words: string) => (
    <Button
      kind="quiet"
      className="px-2"
      aria-expanded={doing === what}
      aria-label={`${words} ${when} with ${first}`}
      onPress={() => setDoing(doing === what ? null : what)}
    >
      {what === 'move' ? 'Move it' : 'Call it off'}
    </Button>
  );
  return (
    <View className="gap-1 border-t border-dashed border-line pt-1">
      <View className="flex-row flex-wrap items-center gap-x-3">
        <Text kind="strong">{when}</Text>
        <Text className="min-w-[120px] flex-1">
          {booking.learner}
          <Text kind="small">{booking.by && booking.by !== booking.learner ? `, by ${booking.by}` : ''}</Text>
        </Text>
        {others.length ? turn('move', 'Move') : null}
        {turn('callOff', 'Call off')}
      </View>
      {booking.word ? <Text className="text-ink2">{`“${booking.word}”`}</Text> : null}
      {doing ? (
        <View className="gap-2 pb-1">
          {doing === 'move' ? (
            <Choice
              label="Move it to"
              value={to}
              options={others}
              onChange={(e) => setTo(e.currentTarget.value)}
            />
          ) : null}
          <Field
            label={`A word to ${first} and whoever is around them`}
            value={word}
            maxLength={500}
            onChange={(e) => setWord(e.currentTarget.value)}
          />
          <ProblemNotice problem={change.error && problemOf(change.error)} />
          {change.data && !change.data.taken ? (
            <Notice kind="warning" title="This time is no longer free.">
              That time is taken now. Choose another one.
            </Notice>
          ) : null}
          <Button
            className="self-start"
            busy={change.isPending}
            disabled={doing === 'move' && !to}
            onPress={() => change.mutate()}
          >
            {doing === 'move' ? 'Move it' : 'Call it off'}
          </Button>
        </View>
      ) : null}
    </View>
  );
}
