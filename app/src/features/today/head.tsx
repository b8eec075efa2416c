import { suffices } from '@zephyrfield/core/item/access';
import { keyOf } from '@zephyrfield/core/item/occurrence';
import { civilDate, formatDate } from '@zephyrfield/core/time/civil';
import { itemPath } from '@zephyrfield/core/notify/links';
import { longDay, shortDay, weekdayName } from '@zephyrfield/core/words/when';
import PencilLine from 'lucide-react-native/icons/pencil-line';
import { View } from 'react-native';
import { Link } from '@/router';
import { useDraft } from '@/data/draft';
import { IconButton } from '@/ui/button';
import { WayToOneself } from '@/ui/place-head';
import { Text } from '@/ui/text';
import type { Today } from './use-today';

/** Says which day it is and what lasts over it, with the way to write something in. */
export function Head({ today: { learner, seen, week } }: { today: Today }) {
  // A week that has a name of its own stands there already.
  const lasting = seen.spans.filter((e) => e.occurrence.title !== week);
  return (
    <View className="flex-row items-start gap-x-1">
      <View className="min-w-0 flex-1">
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
      {suffices(learner.access, 'edit') ? (
        <IconButton
          icon={PencilLine}
          label="Add an item"
          onPress={() => useDraft.getState().begin(learner.id, { day: formatDate(seen.day) })}
        />
      ) : null}
      <WayToOneself />
    </View>
  );
}
