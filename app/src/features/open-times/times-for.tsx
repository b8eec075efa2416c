import type { OpenSlotView } from '@zephyrfield/core/api/open-times';
import type { Learner } from '@zephyrfield/core/api/schemas';
import { dayIn, instantOf } from '@zephyrfield/core/time/when';
import { clockTime, longDay, shortWhen, type Viewer } from '@zephyrfield/core/words/when';
import { firstName, plural } from '@zephyrfield/core/words/text';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { View } from 'react-native';
import { problemOf } from '@/data/client';
import { useOwnClock } from '@/data/learner';
import { useOpenSlots } from '@/data/open-slots';
import { giveBack, takeSlot } from '@/data/open-times';
import { useNow } from '@/data/now';
import { useOutbox } from '@/data/outbox';
import { askedFor } from '@/data/outbox-settle';
import { Button } from '@/ui/button';
import { Choices } from '@/ui/choices';
import { Field } from '@/ui/field';
import { Notice, ProblemNotice } from '@/ui/notice';
import { Part } from '@/ui/part';
import { Text } from '@/ui/text';

const whenOf = (iso: string) => instantOf(Date.parse(iso));

/** The times that are offered to a learner: what is taken first, then what can be taken, day by day. */
export function TimesFor({ learner, slot }: { learner: Learner; slot: string }) {
  const viewer = useOwnClock(learner);
  const slots = useOpenSlots(learner.id);
  const [fits, setFits] = useState<'fits' | 'all'>('fits');
  const [moving, setMoving] = useState<OpenSlotView | null>(null);
  const all = slots.data ?? [];
  const taken = all.filter((s) => s.booking !== null);
  const free = all.filter((s) => s.booking === null);
  const clashing = free.filter((s) => s.clashes).length;
  const shown = free.filter((s) => fits === 'all' || !s.clashes || s.id === slot);
  const days = [...new Set(shown.map((s) => dayIn(whenOf(s.start), viewer)))];
  const first = learner.isSelf ? 'you' : firstName(learner.name);
  return (
    <Part title={`Offered to ${first}`} aside={free.length ? plural(free.length, 'time') : ''}>
      <ProblemNotice problem={slots.error && problemOf(slots.error)} />
      {slots.data && !all.length ? <Text>Nobody offers times just now.</Text> : null}
      {taken.map((each) => (
        <TakenTime
          key={each.id}
          slot={each}
          viewer={viewer}
          isMoving={moving?.id === each.id}
          onMove={() => setMoving(moving?.id === each.id ? null : each)}
        />
      ))}
      {moving ? <Text role="status">Choose another time below to move it there.</Text> : null}
      {clashing ? (
        <Choices<'fits' | 'all'>
          label="Which times"
          all={[
            ['fits', 'what fits'],
            ['all', `all, ${clashing} clash`],
          ]}
          value={fits}
          onChange={setFits}
        />
      ) : null}
      {days.map((day) => (
        <View key={day} role="group" aria-label={longDay(day)} className="gap-1 pt-1">
          <Text kind="lead" heading={3}>
            {longDay(day)}
          </Text>
          {shown
            .filter((s) => dayIn(whenOf(s.start), viewer) === day)
            .map((each) => (
              <FreeTime
                key={each.id}
                slot={each}
                learner={learner}
                viewer={viewer}
                isAsked={each.id === slot}
                moving={moving}
                onMoved={() => setMoving(null)}
              />
            ))}
        </View>
      ))}
    </Part>
  );
}

const spanOf = (s: OpenSlotView, viewer: Viewer) =>
  `${clockTime(whenOf(s.start), viewer)} to ${clockTime(whenOf(s.end), viewer)}`;

function TakenTime({
  slot,
  viewer,
  isMoving,
  onMove,
}: {
  slot: OpenSlotView;
  viewer: Viewer;
  isMoving: boolean;
  onMove(): void;
}) {
  const [word, setWord] = useState('');
  const [isGiving, setGiving] = useState(false);
  const now = useNow();
  const give = useMutation({ mutationFn: () => giveBack(slot.booking!, word) });
  const isLate = Date.parse(slot.until) <= now;
  return (
    <View
      role="group"
      aria-label={`Taken: ${slot.title}, ${shortWhen(whenOf(slot.start), viewer)}`}
      className="gap-2 rounded-xl border-l-4 border-fern bg-sheet px-4 py-3 shadow-sm"
    >
      <Text kind="strong">{`${longDay(dayIn(whenOf(slot.start), viewer))}, ${spanOf(slot, viewer)}`}</Text>
      <Text kind="small">{[`${slot.title} with ${slot.by}`, slot.place].filter(Boolean).join(' · ')}</Text>
      <ProblemNotice problem={give.error && problemOf(give.error)} />
      {isGiving ? (
        <View className="gap-2">
          <Field
            label={`A word to ${firstName(slot.by)}`}
            value={word}
            maxLength={500}
            onChange={(e) => setWord(e.currentTarget.value)}
          />
          <View className="flex-row flex-wrap gap-2">
            <Button busy={give.isPending} onPress={() => give.mutate()}>
              Give it back
            </Button>
            <Button kind="second" onPress={() => setGiving(false)}>
              Keep it
            </Button>
          </View>
        </View>
      ) : isLate ? (
        <Text kind="small">It is too late to give it back here. Write a note.</Text>
      ) : (
        <View className="flex-row flex-wrap gap-2">
          <Button kind="second" onPress={() => setGiving(true)}>
            Give it back
          </Button>
          <Button kind="second" aria-pressed={isMoving} onPress={onMove}>
            {isMoving ? 'Leave it where it is' : 'Move it'}
          </Button>
        </View>
      )}
    </View>
  );
}

function FreeTime({
  slot,
  learner,
  viewer,
  isAsked,
  moving,
  onMoved,
}: {
  slot: OpenSlotView;
  learner: Learner;
  viewer: Viewer;
  isAsked: boolean;
  moving: OpenSlotView | null;
  onMoved(): void;
}) {
  const [word, setWord] = useState('');
  const [open, setOpen] = useState(isAsked);
  const take = useMutation({
    mutationFn: () =>
      moving
        ? giveBack(moving.booking!, word, slot.id)
        : takeSlot(learner.id, slot.id, word, `${slot.title}, ${shortWhen(whenOf(slot.start), viewer)}`),
    onSuccess: ({ taken }) => {
      if (taken) onMoved();
    },
  });
  const waits = useOutbox((s) => askedFor(s.waiting, slot.id)) !== null;
  const lost = take.data && !take.data.taken ? take.data.nearest : null;
  const words = [
    slot.title,
    `with ${slot.by}`,
    slot.place,
    slot.left > 1 ? `${slot.left} places left` : '',
    slot.names.length ? `with ${slot.names.map((n) => firstName(n)).join(', ')}` : '',
    slot.clashes ? 'clashes' : '',
    waits ? 'asked for, not sure yet: it is sent once there is a connection' : '',
  ];
  return (
    <View
      role="group"
      aria-label={`${spanOf(slot, viewer)}, ${slot.title}`}
      className={`gap-2 rounded-lg border border-dashed px-3 py-1 ${open ? 'border-lagoon bg-sheet' : 'border-ink2'}`}
    >
      <View className="flex-row items-center gap-x-3">
        <View className="min-w-0 flex-1">
          <Text kind="strong">{spanOf(slot, viewer)}</Text>
          <Text kind="small">{words.filter(Boolean).join(' · ')}</Text>
        </View>
        <Button
          kind="quiet"
          className="px-2"
          aria-expanded={open}
          aria-label={`${moving ? 'Move to' : 'Take'} ${shortWhen(whenOf(slot.start), viewer)}`}
          onPress={() => setOpen(!open)}
        >
          {moving ? 'Move here' : 'Take'}
        </Button>
      </View>
      {open && !waits ? (
        <View className="gap-2 pb-2">
          {slot.details ? <Text>{slot.details}</Text> : null}
          {slot.clashes ? (
            <Text className="font-bold text-marigold">There is something else then.</Text>
          ) : null}
          <Field
            label={`A word to ${firstName(slot.by)}`}
            value={word}
            maxLength={500}
            onChange={(e) => setWord(e.currentTarget.value)}
          />
          <Text kind="small">{`It can be given back until ${shortWhen(whenOf(slot.until), viewer)}.`}</Text>
          <ProblemNotice problem={take.error && problemOf(take.error)} />
          {lost ? (
            <Notice kind="warning" title="This time is no longer free.">
              {lost.length
                ? `The nearest that are left: ${lost.map((s) => `${shortWhen(whenOf(s.start), viewer)}`).join(', ')}.`
                : 'No other time is left.'}
            </Notice>
          ) : null}
          <Button busy={take.isPending} className="self-start" onPress={() => take.mutate()}>
            {moving ? 'Move it here' : `Take it for ${learner.isSelf ? 'me' : firstName(learner.name)}`}
          </Button>
        </View>
      ) : null}
    </View>
  );
}
