import { entryId } from '@zephyrfield/core/view/entry';
import type { DayColumn } from '@zephyrfield/core/view/days';
import { fitColumns } from '@zephyrfield/core/view/lanes';
import { slipTime } from '@zephyrfield/core/view/slips';
import { longDay, minuteWords } from '@zephyrfield/core/words/when';
import { Pressable, View } from 'react-native';
import { FILL, WASH } from '@/ui/colours';
import { Flag } from '@/ui/flag';
import { SMALL_FLAG, SlipLine } from '@/ui/slip-line';
import { WhoseMark } from '@/ui/cleat';
import { SlipPress } from '@/ui/slip-press';
import { Text } from '@/ui/text';
import { BlockEnd, Draggable, DayBox } from './drag';
import { slipOf, type Drawing } from './drawing';

/** A block narrower than this, in pixels, shows fewer than eight letters of its title. */
const NARROWEST = 68;
/** How wide and high the count is of what has no room, in pixels */
const CHIP = 30;

interface Props extends Drawing {
  column: DayColumn;
  /** First hour shown, how many, and how high each is */
  from: number;
  count: number;
  hour: number;
  /** How wide the column is, in pixels */
  width: number;
  onDay(day: number): void;
  /** Minute of the day it is now; null on other days */
  nowMinute: number | null;
  roomy: boolean;
  onWrite: ((day: number, minute: number) => void) | undefined;
}

/** The hours of a day, with what is on then; what has no room beside the rest is counted. */
export function HourColumn({
  column,
  from,
  count,
  hour,
  width,
  nowMinute: now,
  roomy,
  onDay,
  onWrite,
  ...drawing
}: Props) {
  const top = (minute: number) => ((minute - from * 60) / 60) * hour;
  const isCrowded = column.timed.some((t) => width / t.columns < NARROWEST);
  const { shown, crowded } = isCrowded
    ? fitColumns(column.timed, Math.max(1, Math.floor((width - CHIP) / NARROWEST)))
    : { shown: column.timed, crowded: [] };
  const counted = new Set(crowded.map((c) => c.cluster));
  return (
    <DayBox
      day={column.day}
      hours={{ from: from * 60, height: hour }}
      role="list"
      aria-label={longDay(column.day)}
      className={`relative min-w-0 flex-1 border-l ${now !== null ? 'border-lagoon' : 'border-line'}`}
      style={{ height: count * hour }}
    >
      {Array.from({ length: count }, (_, i) => (
        <View
          key={i}
          className="absolute left-0 right-0 border-t border-line"
          style={{ top: i * hour }}
          aria-hidden
        />
      ))}
      {onWrite ? <Empty hour={hour} from={from} onPress={(minute) => onWrite(column.day, minute)} /> : null}
      {shown.map(({ block, column: place, columns, cluster }) => {
        // Beside what is counted, the count needs its room.
        const share = (width - (counted.has(cluster) ? CHIP : 0)) / columns;
        const slip = slipOf(block.entry, drawing);
        const height = Math.max(24, top(block.to) - top(block.from) - 2);
        return (
          <View
            key={entryId(block.entry)}
            role="listitem"
            className="absolute px-0.5 measured"
            style={{
              top: top(block.from),
              height,
              left: share * place,
              width: share,
            }}
          >
            <Draggable entry={block.entry} className="h-full">
              {block.entry.urgency !== null ? (
                <SlipLine time={columns > 2 ? '' : slipTime(block.entry, drawing.viewer)} {...slip} />
              ) : (
                <TimeBlock
                  entry={block.entry}
                  height={height}
                  roomy={roomy && columns < 3}
                  viewer={drawing.viewer}
                  slip={slip}
                />
              )}
            </Draggable>
            {block.entry.occurrence.own && block.entry.urgency === null && block.entry.shape !== 'note' ? (
              <BlockEnd entry={block.entry} />
            ) : null}
          </View>
        );
      })}
      {crowded.map(({ cluster, count: n, from: first }) => (
        <View
          key={cluster}
          role="listitem"
          className="absolute right-0 px-0.5"
          style={{ top: top(first), width: CHIP, height: CHIP }}
        >
          <Pressable
            role="button"
            aria-label={`${n} more at ${minuteWords(first, drawing.viewer.hours)} on ${longDay(column.day)}`}
            onPress={() => onDay(column.day)}
            className="h-full items-center justify-center rounded-lg bg-sheet hover:bg-lagoon-wash"
          >
            <Text kind="fine" className="font-bold text-lagoon">
              +{n}
            </Text>
          </Pressable>
        </View>
      ))}
      {now !== null && now >= from * 60 && now <= (from + count) * 60 ? (
        <View
          className="absolute left-0 right-0 border-t-2 border-lagoon"
          style={{ top: top(now) }}
          aria-hidden
        />
      ) : null}
    </DayBox>
  );
}

/**
 * The empty hours of a day: a press begins something there, at the half hour. By keyboard it is begun by its
 * key.
 */
function Empty({ hour, from, onPress }: { hour: number; from: number; onPress(minute: number): void }) {
  const press = (e: { nativeEvent: object }) => {
    const { offsetY } = e.nativeEvent as MouseEvent;
    onPress((from + Math.floor((offsetY / hour) * 2) / 2) * 60);
  };
  return <Pressable aria-hidden tabIndex={-1} onPress={press} className="absolute inset-0 cursor-cell" />;
}

/** Somewhere to be: its height is its time, its bar its colour. */
function TimeBlock({
  entry,
  height,
  roomy,
  viewer,
  slip,
}: {
  entry: Parameters<typeof slipTime>[0];
  height: number;
  roomy: boolean;
  viewer: Drawing['viewer'];
  slip: ReturnType<typeof slipOf>;
}) {
  const { id, colour, flag, whose, title, spoken, chosen, onOpen, shape } = slip;
  const isDetailed = roomy && height > 38;
  const cloth = (
    <View className="shrink-0 self-center within-[79px]:hidden">
      <Flag colour={colour} flag={flag} size={SMALL_FLAG} />
    </View>
  );
  return (
    <SlipPress
      id={id}
      spoken={spoken}
      chosen={chosen}
      onOpen={onOpen}
      className={`h-full flex-row rounded-lg hover:shadow-md ${shape === 'note' ? 'border border-dashed border-ink2 bg-paper' : WASH[colour]} ${shape === 'sitting' ? 'rounded-l-none border-l-[3px] border-dotted border-ink2' : ''}`}
    >
      {shape === 'sitting' ? null : <View className={`my-1 ml-1 w-[3px] rounded-full ${FILL[colour]}`} />}
      <View className="min-w-0 flex-1 px-1 py-0.5 within-[55px]:px-0.5">
        <View className="flex-row gap-1">
          <WhoseMark whose={whose} />
          {isDetailed ? null : cloth}
          <Text
            kind="fine"
            numberOfLines={height > 60 ? 2 : 1}
            className="min-w-0 flex-1 font-bold within-[79px]:[overflow-wrap:normal]"
            dir="auto"
          >
            {title}
          </Text>
        </View>
        {isDetailed ? (
          <View className="flex-row gap-1">
            {cloth}
            <Text kind="fine" numberOfLines={1} className="min-w-0 flex-1 text-ink2">
              {[entry.occurrence.place, slipTime(entry, viewer)].filter(Boolean).join(' · ')}
            </Text>
          </View>
        ) : null}
      </View>
    </SlipPress>
  );
}
