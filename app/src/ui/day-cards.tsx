import type { DayForSeveral } from '@zephyrfield/core/plan/clashes';
import { shortDay } from '@zephyrfield/core/words/when';
import { Pressable, View } from 'react-native';
import { Text } from './text';

interface Props {
  days: readonly DayForSeveral[];
  /** The calmest of them */
  best: number | null;
  /** The one that is chosen, where one is */
  chosen: number | null;
  onDay(day: number): void;
}

const PIP = ['h-[7px] bg-line', 'h-[11px] bg-ink2', 'h-[18px] bg-ink'] as const;

/** Days as dates for several: a mark for each of them, as high as their day is full, and what clashes in words. */
export function DayCards({ days, best, chosen, onDay }: Props) {
  return (
    <View className="flex-row flex-wrap gap-2">
      {days.map(({ day, full, words, isDayOff }) => {
        const isBest = day === best;
        const said = isDayOff ? 'off' : words.length ? words.join(', ') : isBest ? 'calmest' : 'calm';
        return (
          <Pressable
            key={day}
            role="button"
            aria-pressed={chosen === day}
            aria-label={`${shortDay(day)}: ${said}${isBest && words.length ? ', calmest' : ''}`}
            onPress={() => onDay(day)}
            className={`min-h-touch min-w-[132px] max-w-[200px] flex-1 gap-1 rounded-lg px-3 py-2 hover:bg-lagoon-wash ${
              chosen === day
                ? 'border-2 border-lagoon bg-lagoon-wash'
                : isBest
                  ? 'border-2 border-dashed border-lagoon'
                  : 'border border-line'
            }`}
          >
            <Text kind="strong" className="text-lagoon underline">
              {shortDay(day)}
            </Text>
            <View className="h-[18px] flex-row flex-wrap items-end gap-[3px] overflow-hidden" aria-hidden>
              {full.slice(0, 12).map((each, n) => (
                <View key={n} className={`w-[8px] rounded-[2px] ${PIP[each]}`} />
              ))}
            </View>
            <Text kind="small">{said}</Text>
            {isBest && words.length ? (
              <Text kind="small" className="font-bold text-lagoon">
                calmest
              </Text>
            ) : null}
          </Pressable>
        );
      })}
    </View>
  );
}
