import type { Progress } from '@zephyrfield/core/plan/progress';
import { hoursWords, longDay, shortDay } from '@zephyrfield/core/words/when';
import { useState } from 'react';
import { View } from 'react-native';
import { StackedBarChart } from 'react-native-chart-kit';
import { Text } from '@/ui/text';

/** Widths in pixels: what the chart keeps free beside its bars, its usual bar, and a label with a gap. */
const CHART_EDGE = 70;
const CHART_BAR = 32;
const LABEL = 52;

/** What was finished and what is open, week by week: a look, and the same as a table for who does not see it. */
export function WeekChart({ weeks }: { weeks: readonly (readonly [week: number, counts: Progress])[] }) {
  const [width, setWidth] = useState(0);
  const slot = Math.max(0, width - CHART_EDGE) / weeks.length;
  const every = Math.max(1, Math.ceil(LABEL / slot));
  const label = (day: number) => shortDay(day).split(' ').slice(1).join(' ');
  return (
    <View onLayout={(e) => setWidth(Math.floor(e.nativeEvent.layout.width))} className="min-h-[220px]">
      {width ? (
        <View role="img" aria-label="Finished and open work by week; the table below says the same">
          <StackedBarChart
            width={width}
            height={220}
            hideLegend
            decimalPlaces={0}
            data={{
              labels: weeks.map(([week], n) => ((weeks.length - 1 - n) % every ? '' : label(week))),
              legend: [],
              data: weeks.map(([, c]) => [c.finished, c.open]),
              barColors: ['var(--fern)', 'var(--marigold-fill)'],
            }}
            chartConfig={{
              backgroundGradientFrom: 'var(--sheet)',
              backgroundGradientTo: 'var(--sheet)',
              color: () => 'var(--line)',
              labelColor: () => 'var(--ink2)',
              barPercentage: Math.min(40, slot * 0.4) / CHART_BAR,
              propsForLabels: { fontFamily: 'Atkinson Hyperlegible Next Variable', fontSize: 13 },
            }}
            style={{ borderRadius: 12 }}
          />
        </View>
      ) : null}
      <View className="flex-row gap-4 pt-1" aria-hidden>
        <Key colour="bg-fern" words="finished" />
        <Key colour="bg-marigold-fill" words="open" />
      </View>
      <View className="sr-only" role="table" aria-label="Work by week">
        {weeks.map(([week, c]) => (
          <View key={week} role="row">
            <Text role="rowheader">{`Week of ${longDay(week)}`}</Text>
            <Text role="cell">{`${c.finished} finished`}</Text>
            <Text role="cell">{`${c.open} open`}</Text>
            <Text role="cell">{c.took ? `${hoursWords(c.took)} taken` : 'no time taken'}</Text>
          </View>
        ))}
      </View>
    </View>
  );
}

const Key = ({ colour, words }: { colour: string; words: string }) => (
  <View className="flex-row items-center gap-1.5">
    <View className={`h-3 w-3 rounded-sm ${colour}`} />
    <Text kind="small">{words}</Text>
  </View>
);
