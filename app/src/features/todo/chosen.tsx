import { suffices } from '@zephyrfield/core/item/access';
import type { CalendarView, Learner } from '@zephyrfield/core/api/schemas';
import { parseDate } from '@zephyrfield/core/time/civil';
import type { TodoEntry } from '@zephyrfield/core/todo/buckets';
import { longDay, type Viewer } from '@zephyrfield/core/words/when';
import { plural } from '@zephyrfield/core/words/text';
import { useState } from 'react';
import { View } from 'react-native';
import { useUndo } from '@/data/undo';
import { changeLayer, finishAll } from '@/data/layer';
import { late } from '@/data/late';
import { moves } from '@/data/moves';
import { Button } from '@/ui/button';
import { Choice } from '@/ui/field';
import { Text } from '@/ui/text';
import { DateField } from '@/ui/date-field';

interface Props {
  entries: readonly TodoEntry[];
  calendars: readonly CalendarView[];
  learner: Learner;
  viewer: Viewer;
  /** How many there are to choose from, and what chooses all of them or none */
  most: number;
  onAll(): void;
  onDone(): void;
}

/** What can be done with several at once: each of it is one step, taken back in one step. */
export function Chosen({ entries, calendars, learner, viewer, most, onAll, onDone }: Props) {
  const [day, setDay] = useState('');
  const count = plural(entries.length, 'item');
  const all = (words: string, work: (entry: TodoEntry) => Promise<unknown>) => {
    // One after the other: several may be dates of one item.
    const inTurn = async () => {
      for (const entry of entries) await work(entry);
    };
    void useUndo.getState().bundle(words, inTurn);
    onDone();
  };
  const move = () => {
    const to = parseDate(day);
    if (!Number.isNaN(to))
      all(`${count} moved to ${longDay(to)}`, (entry) => moves(learner.id, viewer).move(entry, { day: to }));
  };
  const putInto = async (calendarId: string) => {
    const { changeCalendarOf } = await late('changes')();
    const name = calendars.find((c) => c.id === calendarId)?.name ?? '';
    const own = new Set(entries.filter((e) => e.occurrence.own).map((e) => e.occurrence.itemId)).size;
    try {
      const stayed = await changeCalendarOf(
        learner.id,
        entries.map((e) => e.occurrence),
        calendarId,
        `${plural(own, 'item')} put into ${name}`,
      );
      if (stayed)
        useUndo
          .getState()
          .say(
            `${stayed === 1 ? 'One comes' : `${stayed} come`} from a feed and ${stayed === 1 ? 'stays' : 'stay'} in ${stayed === 1 ? 'its' : 'their'} calendar${own ? `; ${plural(own, 'item')} of your own put into ${name}` : ''}.`,
          );
    } catch (error) {
      useUndo.getState().failed(error);
    }
    onDone();
  };
  const none = !entries.length;
  return (
    <View
      role="group"
      aria-label="Chosen items"
      className="sticky top-0 z-10 mt-2 gap-1 rounded-lg bg-lagoon-wash px-3 pb-3 pt-1"
    >
      <View className="flex-row flex-wrap items-center gap-x-2">
        <Text kind="strong">{plural(entries.length, 'chosen item')}</Text>
        <Button kind="quiet" onPress={onAll}>
          {entries.length === most ? 'Choose none' : `Choose all ${most}`}
        </Button>
        <Button
          kind="quiet"
          disabled={none}
          onPress={() => {
            const words = `${count} finished`;
            void finishAll(
              learner.id,
              entries.map((e) => e.occurrence),
              true,
              words,
            );
            onDone();
          }}
        >
          Finish
        </Button>
        <Button
          kind="quiet"
          disabled={none}
          onPress={() =>
            all(`${count} hidden`, (e) =>
              changeLayer(learner.id, e.occurrence, { hidden: true }, { words: 'hidden' }),
            )
          }
        >
          Hide
        </Button>
      </View>
      {suffices(learner.access, 'edit') && !none ? (
        <View className="flex-row flex-wrap items-end gap-2">
          <View className="w-[150px]">
            <DateField label="Do on" value={day} onChange={setDay} />
          </View>
          <Button kind="second" disabled={!day} onPress={move}>
            Move
          </Button>
          <View className="min-w-[150px] flex-1">
            <Choice
              label="Move to calendar"
              value=""
              onChange={(e) => void putInto(e.currentTarget.value)}
              options={[
                { value: '', words: 'another calendar …' },
                ...calendars.map((c) => ({ value: c.id, words: c.name })),
              ]}
            />
          </View>
        </View>
      ) : null}
      <Text kind="small">
        Press a slip to choose it
        {suffices(learner.access, 'edit') ? '; drag its grip to move it' : ''}.
      </Text>
    </View>
  );
}
