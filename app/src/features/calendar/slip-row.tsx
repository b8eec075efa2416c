import type { AgendaEntry } from '@zephyrfield/core/view/agenda';
import { HANDED_IN_WORDS } from '@zephyrfield/core/item/words';
import { slipDetail, slipNote, slipTime } from '@zephyrfield/core/view/slips';
import { shortDay, spanDayWords, today as dayOf } from '@zephyrfield/core/words/when';
import { dayIn } from '@zephyrfield/core/time/when';
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
  return (
    <View className="px-4 py-1">
      <Slip
        {...slipOf(entry, drawing)}
        flag={calendar?.flag ?? { shape: 'square', pattern: 'plain' }}
        calendar={calendar?.name ?? ''}
        detail={slipDetail(entry, viewer)}
        time={entry.isAim ? 'aim' : isUnderDay || entry.urgency !== null ? slipTime(entry, viewer) : spanDayWords(start, end, viewer)}
        handedIn={entry.occurrence.handedIn ? HANDED_IN_WORDS[entry.occurrence.handedIn] : undefined}
        note={entry.isAim && entry.occurrence.due ? `due ${shortDay(dayIn(entry.occurrence.due, viewer))}` : slipNote(entry, dayOf(now, viewer), isUnderDay)}
        onFinish={onFinish && (() => onFinish(entry))}
      />
    </View>
  );
}
