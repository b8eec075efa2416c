import type { CalendarView } from '@zephyrfield/core/api/schemas';
import { sittingId, type SittingEntry } from '@zephyrfield/core/plan/plan-days';
import { hoursWords, minuteWords } from '@zephyrfield/core/words/when';
import Check from 'lucide-react-native/icons/check';
import Pin from 'lucide-react-native/icons/pin';
import { Pressable, View } from 'react-native';
import { WASH } from './colours';
import { Flag } from './flag';
import { Text } from './text';

interface Props {
  entry: SittingEntry;
  calendar: CalendarView | undefined;
  hours: 12 | 24;
  /** It is proposed, and stands nowhere yet */
  isProposed?: boolean;
  /** What no longer holds of it, in a word or two */
  trouble?: string | undefined;
  onOpen?: (() => void) | undefined;
}

/** A sitting: a strip torn from its ticket, with the dotted edge it was torn along. */
export function Strip({ entry, calendar, hours, isProposed = false, trouble, onOpen }: Props) {
  const { sitting, occurrence, name } = entry;
  const colour = occurrence.colour ?? calendar?.colour ?? 'slate';
  const isDone = sitting.state === 'done';
  const isMissed = sitting.state === 'missed';
  const what = [name ? `${name.at} of ${name.of}` : 'not done', name?.part].filter(Boolean).join(' · ');
  const long = hoursWords(sitting.took ?? sitting.minutes);
  return (
    <Pressable
      role={onOpen ? 'button' : undefined}
      disabled={!onOpen}
      onPress={onOpen}
      dataSet={{ sitting: sittingId(entry) }}
      aria-label={[
        `${occurrence.title}, sitting ${what}`,
        `${minuteWords(sitting.from % 1440, hours)}, ${long}`,
        isDone ? 'done' : null,
        sitting.pinned ? 'stays where you put it' : null,
        isProposed ? 'proposed' : null,
        trouble ?? null,
      ]
        .filter(Boolean)
        .join(', ')}
      className={`min-h-touch min-w-0 flex-row items-center gap-2.5 rounded-r-lg border-l-[3px] border-dotted border-ink2 px-3 py-1.5 ${
        isMissed ? 'bg-sheet' : WASH[colour]
      } ${isProposed ? 'border-y border-r border-y-lagoon border-r-lagoon' : ''} ${onOpen ? 'hover:shadow-md' : ''}`}
    >
      <View className="min-w-[52px]">
        <Text kind="strong" className={isMissed ? 'text-ink2 line-through' : ''}>
          {minuteWords(sitting.from % 1440, hours)}
        </Text>
        <View className="flex-row items-center gap-1">
          <Text kind="small" className={isDone ? 'font-bold text-fern' : 'text-ink2'}>
            {long}
          </Text>
          {isDone ? <Check size={15} color="var(--fern)" aria-hidden /> : null}
        </View>
      </View>
      {calendar ? <Flag colour={colour} flag={calendar.flag} size={13} /> : null}
      <View className="min-w-0 flex-1">
        <Text kind="strong" className={`line-clamp-2 ${isMissed ? 'text-ink2' : ''}`} dir="auto">
          {occurrence.title}
        </Text>
        <Text kind="small" className="line-clamp-2 text-ink2">
          {isProposed ? (
            <Text kind="label" className="text-lagoon">
              {'new · '}
            </Text>
          ) : null}
          {what}
          {trouble ? <Text kind="label" className="text-marigold">{` · ${trouble}`}</Text> : null}
        </Text>
      </View>
      {sitting.pinned ? <Pin size={14} color="var(--ink2)" aria-hidden /> : null}
    </Pressable>
  );
}
