import type { ItemView, OccurrenceView } from '@zephyrfield/core/api/schemas';
import { plain } from '@zephyrfield/core/lib/plain';
import { dayIn } from '@zephyrfield/core/time/when';
import type { Zone } from '@zephyrfield/core/time/zone';
import { shortWhen } from '@zephyrfield/core/words/when';
import { useState } from 'react';
import { Pressable, View } from 'react-native';
import { useNow } from '@/data/now';
import { sayWhetherSame, useQuestions } from '@/data/questions';
import { useCalendars, useOccurrences } from '@/data/queries';
import { Button } from '@/ui/button';
import { Field } from '@/ui/field';
import { Flag } from '@/ui/flag';
import { Text } from '@/ui/text';

/** So many days around an item, the other one is looked for; so many are offered at once. */
const DAYS = 45;
const OFFERED = 6;

interface Props {
  item: ItemView;
  learnerId: string;
  viewer: Zone;
}

/** Says that an item is the same thing as another one: as it is asked, or as a person has noticed themselves. */
export function JoinItems({ item, learnerId, viewer }: Props) {
  const [open, setOpen] = useState(false);
  const { occurrence } = item;
  const asked = useQuestions(learnerId).data?.maybeSame ?? [];
  const calendars = useCalendars(learnerId).data ?? [];
  const others = asked.flatMap(({ a, b }) =>
    a.itemId === occurrence.itemId ? [b] : b.itemId === occurrence.itemId ? [a] : [],
  );
  return (
    <View className="gap-2">
      {others.map((other) => (
        <View key={other.itemId} className="gap-1">
          <Text kind="small">
            {`May be the same as “${other.title}” in ${calendars.find((c) => c.id === other.calendarId)?.name ?? 'another calendar'}, due the same day.`}
          </Text>
          <View className="-ml-4 flex-row flex-wrap">
            <Button kind="quiet" onPress={() => void sayWhetherSame(learnerId, occurrence, other, true)}>
              It is the same
            </Button>
            <Button kind="quiet" onPress={() => void sayWhetherSame(learnerId, occurrence, other, false)}>
              They are two things
            </Button>
          </View>
        </View>
      ))}
      {open ? (
        <Others occurrence={occurrence} learnerId={learnerId} viewer={viewer} onDone={() => setOpen(false)} />
      ) : (
        <Button kind="quiet" onPress={() => setOpen(true)} className="-ml-4 self-start">
          Same as another item …
        </Button>
      )}
    </View>
  );
}

/** What stands near an item in time, to choose its other half from. */
function Others({
  occurrence,
  learnerId,
  viewer,
  onDone,
}: Omit<Props, 'item'> & { occurrence: OccurrenceView; onDone(): void }) {
  const [text, setText] = useState('');
  const now = useNow();
  const all = useOccurrences(learnerId, now).data ?? [];
  const calendars = useCalendars(learnerId).data ?? [];
  const day = (o: OccurrenceView) => dayIn(o.due ?? o.start, viewer);
  const at = day(occurrence);
  const words = plain(text).split(/\s+/).filter(Boolean);
  const found = new Map<string, OccurrenceView>();
  const near = all
    .filter((o) => o.itemId !== occurrence.itemId && Math.abs(day(o) - at) <= DAYS)
    .filter((o) => words.every((w) => plain(o.title).includes(w)))
    .sort((a, b) => Math.abs(day(a) - at) - Math.abs(day(b) - at));
  for (const o of near) if (!found.has(o.itemId) && found.size < OFFERED) found.set(o.itemId, o);
  return (
    <View role="group" aria-label="Same as another item" className="gap-2 rounded-xl bg-paper p-3">
      <Field
        label="Which one is it the same as?"
        value={text}
        autoComplete="off"
        onChange={(e) => setText(e.currentTarget.value)}
      />
      {[...found.values()].map((o) => {
        const calendar = calendars.find((c) => c.id === o.calendarId);
        return (
          <Pressable
            key={o.itemId}
            role="button"
            onPress={() => {
              onDone();
              void sayWhetherSame(learnerId, occurrence, o, true);
            }}
            className="min-h-touch flex-row items-center gap-2 rounded-lg border border-line bg-sheet px-3 py-1 hover:bg-lagoon-wash"
          >
            {calendar ? <Flag colour={calendar.colour} flag={calendar.flag} size={17} /> : null}
            <View className="min-w-0 flex-1">
              <Text>{o.title}</Text>
              <Text kind="small">{`${calendar?.name ?? ''} · ${shortWhen(o.due ?? o.start, viewer)}`}</Text>
            </View>
          </Pressable>
        );
      })}
      {found.size ? null : <Text kind="small">Nothing like that stands near it.</Text>}
      <Button kind="second" onPress={onDone} className="self-start">
        Cancel
      </Button>
    </View>
  );
}
