import type { AgendaEntry } from '@zephyrfield/core/view/entry';
import { wholeSlip } from '@zephyrfield/core/view/slips';
import { spanDayWords, today as dayOf } from '@zephyrfield/core/words/when';
import { View } from 'react-native';
import { Slip } from '@/ui/slip';
import { slipOf, type Drawing } from './drawing';

interface Props extends Drawing {
  entry: AgendaEntry;
  /** A heading above says the day */
  isUnderDay?: boolean;
  onFinish?: ((entry: AgendaEntry) => void) | undefined;
}

/** A slip at its full size, as the agenda and a chosen day show it. */
export function SlipRow({ entry, isUnderDay = true, onFinish, ...drawing }: Props) {
  const { byId, now, viewer } = drawing;
  const { start, end, calendarId } = entry.occurrence;
  const calendar = byId.get(calendarId);
  const whole = wholeSlip(entry, calendar, viewer, { today: dayOf(now, viewer), isUnderDay });
  return (
    <View className="px-4 py-1">
      <Slip
        {...slipOf(entry, drawing)}
        {...whole}
        time={isUnderDay || entry.urgency !== null ? whole.time : spanDayWords(start, end, viewer)}
        onFinish={onFinish && (() => onFinish(entry))}
      />
    </View>
  );
}
