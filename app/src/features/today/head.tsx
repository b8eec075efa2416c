import { suffices } from '@zephyrfield/core/item/access';
import { keyOf } from '@zephyrfield/core/item/occurrence';
import { dayWord } from '@zephyrfield/core/view/load';
import { civilDate, formatDate } from '@zephyrfield/core/time/civil';
import { itemPath } from '@zephyrfield/core/notify/links';
import { hoursWords, longDay, shortDay, weekdayName } from '@zephyrfield/core/words/when';
import PencilLine from 'lucide-react-native/icons/pencil-line';
import { View } from 'react-native';
import { Link } from '@/router';
import { useDraft } from '@/data/draft';
import { EVERYBODY } from '@/data/queries';
import { Barb } from '@/ui/barb';
import { IconButton } from '@/ui/button';
import { Text } from '@/ui/text';
import type { Today } from './use-today';

/** Which day it is, what lasts over it, how much work it holds, and the way to write something in. */
export function Head({ today: { learner, seen, week, minutes, isKnown } }: { today: Today }) {
  // A week that has a name of its own stands there already.
  const lasting = seen.spans.filter((e) => e.occurrence.title !== week);
  return (
    <View className="flex-row flex-wrap items-start gap-x-3">
      {/* With large text the rest goes below it. */}
      <View className="min-w-[9rem] flex-1">
        <Text kind="display" heading={1}>
          {weekdayName(seen.day)}
        </Text>
        {/* Two things in a line, or on a phone in two; nothing between them that could hang over. */}
        <View className="flex-row flex-wrap gap-x-3">
          <Text className="text-ink2">
            {longDay(seen.day).replace(`${weekdayName(seen.day)} `, '')} {civilDate(seen.day).year}
          </Text>
          <Text className="text-ink2">{week}</Text>
          {lasting.map(({ occurrence: o, lastDay }) => (
            <Link
              key={keyOf(o)}
              href={itemPath(o.itemId, o.recurrenceId)}
              className="font-text text-body text-ink2 underline"
            >
              {o.title}
              {lastDay > seen.day ? `, until ${shortDay(lastDay)}` : ', last day'}
            </Link>
          ))}
        </View>
      </View>
      <View className="items-end pt-3">
        {/* Of everybody together it would be nobody’s. */}
        {isKnown && learner.id !== EVERYBODY ? (
          <>
            <Barb minutes={minutes} size={40} />
            <Text kind="small">
              {minutes ? `${hoursWords(minutes)} of work, ${dayWord(minutes)}` : 'no work, calm'}
            </Text>
          </>
        ) : null}
      </View>
      {suffices(learner.access, 'edit') ? (
        <IconButton
          icon={PencilLine}
          label="Add an item"
          onPress={() => useDraft.getState().begin(learner.id, { day: formatDate(seen.day) })}
          className="mt-2"
        />
      ) : null}
    </View>
  );
}
