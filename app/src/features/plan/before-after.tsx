import { hoursWords, longDay, shortDay } from '@zephyrfield/core/words/when';
import { View } from 'react-native';
import Svg, { Rect } from 'react-native-svg';
import { Text } from '@/ui/text';

type Days = readonly { day: number; before: number; after: number }[];
interface Props {
  daysOf(): Days;
}

const heaviest = (days: Days, which: 'before' | 'after') => Math.max(0, ...days.map((d) => d[which]));

/** The heaviest evening as it is and as it would be: `3 h 40 → 1 h 35`. */
export function Heaviest({ daysOf }: Props) {
  const days = daysOf();
  const [before, after] = [heaviest(days, 'before'), heaviest(days, 'after')];
  return (
    <Text>
      <Text className="text-ink2">Heaviest evening </Text>
      <Text kind="strong">{hoursWords(before)}</Text>
      <Text className="text-ink2"> → </Text>
      <Text kind="strong" className={after < before ? 'text-fern' : ''}>
        {hoursWords(after)}
      </Text>
    </Text>
  );
}

const HIGH = 84;

/** Evenings side by side: dashed as they are, solid as they would be. The same stands as a table for who does not see it. */
export function BeforeAfter({ daysOf }: Props) {
  const days = daysOf();
  if (!days.length) return null;
  const most = Math.max(60, heaviest(days, 'before'), heaviest(days, 'after'));
  const wide = 100 / Math.max(1, days.length);
  const bar = (minutes: number) => (minutes / most) * HIGH;
  return (
    <View>
      <View role="img" aria-label="Minutes of work each evening, as they are and with this plan">
        <Svg
          width="100%"
          height={HIGH + 2}
          viewBox={`0 0 100 ${HIGH + 2}`}
          preserveAspectRatio="none"
          aria-hidden
        >
          {days.flatMap(({ day, before, after }, n) => [
            <Rect
              key={`before ${day}`}
              x={n * wide + wide * 0.08}
              y={HIGH + 1 - bar(before)}
              width={wide * 0.38}
              height={bar(before)}
              fill="none"
              stroke="var(--ink2)"
              strokeDasharray="3 2"
              vectorEffect="non-scaling-stroke"
            />,
            <Rect
              key={`after ${day}`}
              x={n * wide + wide * 0.52}
              y={HIGH + 1 - bar(after)}
              width={wide * 0.4}
              height={bar(after)}
              fill="var(--lagoon)"
            />,
          ])}
        </Svg>
        <View className="flex-row" aria-hidden>
          {days.map(({ day }, n) => (
            <Text key={day} kind="tight" className="flex-1 text-center text-ink2">
              {days.length <= 16 || n % Math.ceil(days.length / 12) === 0 ? shortDay(day).charAt(0) : ''}
            </Text>
          ))}
        </View>
      </View>
      <Text kind="small">
        dashed: as it is, what is not planned left to its last evening · solid: with this plan
      </Text>
      <View className="sr-only" role="table" aria-label="Minutes of work each evening">
        {days.map(({ day, before, after }) => (
          <View key={day} role="row">
            <Text role="rowheader">{longDay(day)}</Text>
            <Text role="cell">{hoursWords(before)} now</Text>
            <Text role="cell">{hoursWords(after)} with this plan</Text>
          </View>
        ))}
      </View>
    </View>
  );
}
