import { formatDate, parseDate } from '@zephyrfield/core/time/civil';
import { PlanSettings } from '@zephyrfield/core/api/plan';
import { hoursWords, longDay, minuteWords, weekdayName } from '@zephyrfield/core/words/when';
import { useState } from 'react';
import { View } from 'react-native';
import { writePlanSettings } from '@/data/plan';
import { Button } from '@/ui/button';
import { DateField } from '@/ui/date-field';
import { Choice } from '@/ui/field';
import { SavedField } from '@/ui/saved-field';
import { Text } from '@/ui/text';
import { DaySpans } from './day-spans';
import type { PlanScene } from './use-plan-scene';
import { Ways, type PutSettings } from './ways';

type Props = {
  scene: Pick<PlanScene, 'learner' | 'settings' | 'viewer' | 'calendars' | 'mayEdit' | 'today'>;
};

/** Monday 5 January 1970 was a Monday: any one names the weekdays. */
const MONDAY = 4;

/** When a learner can work, and how they like to. Each change is saved as it is made. */
export function Times({ scene }: Props) {
  const { learner, settings, viewer, mayEdit, today } = scene;
  const [wrong, setWrong] = useState<Record<string, string>>({});
  const put: PutSettings = (change, words, field) => {
    const next = { ...settings, ...change };
    const result = PlanSettings.safeParse(next);
    const problem = result.success ? '' : (result.error.issues[0]?.message ?? 'That is not right.');
    setWrong((all) => ({ ...all, [field]: problem }));
    if (!problem) void writePlanSettings(learner.id, next, words);
  };
  const number = (field: 'mostADay' | 'shortest' | 'longest' | 'pause', label: string) => (
    <View className="w-[140px]">
      <SavedField
        label={label}
        inputMode="numeric"
        disabled={!mayEdit}
        value={String(settings[field])}
        error={wrong[field] || undefined}
        onSave={(text) => {
          const minutes = Math.round(Number(text));
          if (minutes !== settings[field]) put({ [field]: minutes }, `${label}: ${minutes}`, field);
        }}
      />
    </View>
  );
  const days = Object.entries(settings.days)
    .filter(([date]) => parseDate(date) >= today)
    .sort();
  return (
    <View className="gap-5">
      <View role="group" aria-label="The week" className="gap-2">
        {settings.week.map((spans, n) => (
          <DaySpans
            key={n}
            name={weekdayName(MONDAY + n)}
            spans={spans}
            viewer={viewer}
            mayEdit={mayEdit}
            error={wrong[`week ${n}`]}
            onChange={(next) =>
              put(
                { week: settings.week.map((s, m) => (m === n ? next : s)) },
                `${weekdayName(MONDAY + n)}s changed`,
                `week ${n}`,
              )
            }
          />
        ))}
      </View>
      <View className="flex-row flex-wrap gap-3">
        {number('mostADay', 'Most minutes a day')}
        {number('shortest', 'Shortest sitting')}
        {number('longest', 'Longest sitting')}
        {number('pause', 'Pause between two')}
      </View>
      <Choice
        label="Before a test, nothing after"
        disabled={!mayEdit}
        value={settings.beforeTest === null ? '' : String(settings.beforeTest)}
        options={[
          { value: '', words: 'no matter' },
          ...[17, 18, 18.5, 19, 19.5, 20, 20.5, 21, 21.5, 22].map((h) => ({
            value: String(h * 60),
            words: minuteWords(h * 60, viewer.hours),
          })),
        ]}
        onChange={(e) =>
          put(
            { beforeTest: e.currentTarget.value ? Number(e.currentTarget.value) : null },
            'Evenings before a test changed',
            'beforeTest',
          )
        }
      />
      <View role="group" aria-label="Single days" className="gap-2">
        <Text kind="lead" heading={3}>
          Single days
        </Text>
        {days.map(([date, spans]) => (
          <DaySpans
            key={date}
            name={longDay(parseDate(date))}
            spans={spans}
            viewer={viewer}
            mayEdit={mayEdit}
            error={wrong[date]}
            onChange={(next) =>
              put({ days: { ...settings.days, [date]: next } }, `${longDay(parseDate(date))} changed`, date)
            }
            onForget={() => {
              const { [date]: _gone, ...rest } = settings.days;
              put({ days: rest }, `${longDay(parseDate(date))} as usual`, date);
            }}
          />
        ))}
        {mayEdit ? (
          <AnotherDay
            from={today}
            onAdd={(date) =>
              put({ days: { ...settings.days, [date]: [] } }, `${longDay(parseDate(date))} taken out`, date)
            }
          />
        ) : null}
      </View>
      <Ways scene={scene} wrong={wrong} put={put} />
      <Text kind="small">{`In a week as usual that is ${hoursWords(settings.week.flat().reduce((sum, s) => sum + s.to - s.from, 0))}.`}</Text>
    </View>
  );
}

function AnotherDay({ from, onAdd }: { from: number; onAdd(date: string): void }) {
  const [date, setDate] = useState(formatDate(from + 1));
  return (
    <View className="flex-row items-end gap-3">
      <View className="min-w-0 flex-1">
        <DateField label="A day that is other than usual" value={date} onChange={setDate} />
      </View>
      <Button kind="second" disabled={!date} onPress={() => onAdd(date)}>
        Take it out
      </Button>
    </View>
  );
}
