import { JOIN_AHEAD } from '@zephyrfield/core/view/filter';
import type { AgendaEntry } from '@zephyrfield/core/view/entry';
import { slipDetail, slipTime } from '@zephyrfield/core/view/slips';
import type { TodayView } from '@zephyrfield/core/view/today';
import { instantIn } from '@zephyrfield/core/time/when';
import { away, clockTime, type Viewer } from '@zephyrfield/core/words/when';
import Video from 'lucide-react-native/icons/video';
import { Linking, Pressable, View } from 'react-native';
import { useItem, type DrawnCalendar } from '@/data/queries';
import { Button } from '@/ui/button';
import { WASH } from '@/ui/colours';
import { WhoseMark } from '@/ui/cleat';
import { Flag } from '@/ui/flag';
import { Text } from '@/ui/text';

interface Props {
  next: NonNullable<TodayView['next']>;
  viewer: Viewer;
  /** Now, an instant in milliseconds */
  now: number;
  /** The calendar it is in, if it is known yet */
  calendar: DrawnCalendar | undefined;
  onOpen(entry: AgendaEntry): void;
}

/** The one next thing, large; with the way into the meeting when it is near. */
export function Next({ next: { entry, at, isUnderWay }, viewer, now, calendar, onOpen }: Props) {
  const { occurrence } = entry;
  const item = useItem(occurrence.itemId, occurrence.recurrenceId, !occurrence.busy);
  const meeting = item.data?.links.find((l) => l.role === 'meeting');
  const isNear = entry.urgency === null && instantIn(occurrence.start, viewer) - now < JOIN_AHEAD;
  return (
    <View role="group" aria-label="Next" className="gap-1 pt-4">
      <Text kind="small">{isUnderWay ? 'Now' : `Next, ${away(at, now)}`}</Text>
      <View className={`gap-2 rounded-xl p-3 ${calendar ? WASH[calendar.colour] : 'bg-sheet'}`}>
        <View className="flex-row justify-between gap-2">
          <Text kind="lead" className="font-display">
            {entry.urgency !== null && occurrence.due
              ? `due ${clockTime(occurrence.due, viewer)}`
              : slipTime(entry, viewer)}
          </Text>
          <Text kind="small">{slipDetail(entry, viewer)}</Text>
        </View>
        <View className="flex-row flex-wrap items-center gap-3">
          <WhoseMark whose={occurrence.sharedBy ?? calendar?.whose} />
          {calendar ? <Flag colour={calendar.colour} flag={calendar.flag} size={22} /> : null}
          <Pressable
            role="button"
            aria-label={`Open ${occurrence.title}`}
            onPress={() => onOpen(entry)}
            className="min-h-touch min-w-0 flex-1 justify-center"
          >
            <Text kind="title" numberOfLines={2} dir="auto">
              {occurrence.title}
            </Text>
          </Pressable>
          {meeting && isNear ? (
            <Button
              icon={Video}
              onPress={() => void Linking.openURL(meeting.href)}
              aria-label={`Join: ${meeting.label ?? meeting.href}`}
            >
              Join
            </Button>
          ) : null}
        </View>
      </View>
    </View>
  );
}
