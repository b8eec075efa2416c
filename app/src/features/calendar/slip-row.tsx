import type { AgendaEntry } from '@zephyrfield/core/view/agenda';
import { HANDED_IN_WORDS, slipDetail, slipNote, slipTime } from '@zephyrfield/core/view/slips';
import { shortDay, today as dayOf } from '@zephyrfield/core/view/words';
import { dayIn } from '@zephyrfield/core/time/when';
import { View } from 'react-native';
import { Slip } from '@/ui/slip';
import { slipOf, type Drawing } from './drawing';

/** A slip at its full size, as the agenda and a chosen day show it. */
export function SlipRow({ entry, onFinish, ...drawing }: Drawing & { entry: AgendaEntry; onFinish?: ((entry: AgendaEntry) => void) | undefined }) {
  const { byId, now, viewer } = drawing;
  const calendar = byId.get(entry.occurrence.calendarId);
  return (
    <View className="px-4 py-1">
      <Slip
        {...slipOf(entry, drawing)}
        flag={calendar?.flag ?? { shape: 'square', pattern: 'plain' }}
        calendar={calendar?.name ?? ''}
        detail={slipDetail(entry, viewer)}
        time={entry.isAim ? 'aim' : slipTime(entry, viewer)}
        handedIn={entry.occurrence.handedIn ? HANDED_IN_WORDS[entry.occurrence.handedIn] : undefined}
        note={entry.isAim && entry.occurrence.due ? `due ${shortDay(dayIn(entry.occurrence.due, viewer))}` : slipNote(entry, dayOf(now, viewer))}
        onFinish={onFinish && (() => onFinish(entry))}
      />
    </View>
  );
}
