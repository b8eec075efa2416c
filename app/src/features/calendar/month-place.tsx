import type { AgendaEntry } from '@zephyrfield/core/view/entry';
import { monthWeeks } from '@zephyrfield/core/view/days';
import { civilDate } from '@zephyrfield/core/time/civil';
import { longDay } from '@zephyrfield/core/words/when';
import X from 'lucide-react-native/icons/x';
import { useState } from 'react';
import { View } from 'react-native';
import { IconButton } from '@/ui/button';
import { useEscape } from '@/ui/use-escape';
import { useIsWide } from '@/ui/use-is-wide';
import { DayLists } from './day-lists';
import type { Drawing } from './drawing';
import { MonthView } from './month-view';
import type { Looking } from './use-look';
import type { Scene } from './use-scene';

interface Props {
  looking: Looking;
  scene: Scene;
  shelfFrom: number;
  firstDay: number;
  weeksBy: 'term' | 'year';
  drawing: Drawing;
  /** An opened day can lie over the month */
  hasRoom: boolean;
  onFinish: ((entry: AgendaEntry) => void) | undefined;
}

/** A month, and the day that is looked at: below it on a phone; on a wide screen over its side, once it is opened. */
export function MonthPlace({
  looking,
  scene,
  shelfFrom,
  firstDay,
  weeksBy,
  drawing,
  hasRoom,
  onFinish,
}: Props) {
  const { day, go } = looking;
  const { shown, load } = scene;
  const isWide = useIsWide();
  const [isOpen, setOpen] = useState(false);
  useEscape(() => setOpen(false), isWide && isOpen);
  const { year, month } = civilDate(day);
  const press = (to: number) => {
    // Pressed again, an opened day closes.
    setOpen(!(isOpen && to === day));
    if (to !== day) go({ day: to });
  };
  const chosenDay = <DayLists first={day} count={1} {...{ shown, shelfFrom, load, onFinish }} {...drawing} />;
  return (
    <View className="min-h-0 flex-1">
      <View className={`min-w-0 ${isWide ? 'min-h-0 flex-1' : 'h-[344px]'}`}>
        <MonthView
          {...monthWeeks(year, month, firstDay)}
          {...{ shown, month, day, shelfFrom, load, weeksBy }}
          opened={isOpen && hasRoom ? day : null}
          termWeeks={scene.weeks}
          onDay={press}
          {...drawing}
        />
      </View>
      {isWide ? null : chosenDay}
      {isWide && isOpen && hasRoom ? (
        <View
          role="region"
          aria-label={`${longDay(day)}, opened`}
          className="absolute bottom-0 right-0 top-[20px] w-[340px] border-l-2 border-lagoon bg-paper shadow-lg"
        >
          <View className="absolute right-1 top-1 z-10">
            <IconButton icon={X} label="Close the day" onPress={() => setOpen(false)} />
          </View>
          {chosenDay}
        </View>
      ) : null}
    </View>
  );
}
