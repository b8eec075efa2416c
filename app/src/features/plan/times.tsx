import { formatDate, parseDate } from '@zephyrfield/core/time/civil';
import { clockOf, minuteOfClock } from '@zephyrfield/core/time/minute';
import { PlanSettings } from '@zephyrfield/core/api/plan';
import type { PlanSettings as Settings, Span } from '@zephyrfield/core/plan/evenings';
import { hoursWords, longDay, minuteWords, weekdayName } from '@zephyrfield/core/words/when';
import { useState } from 'react';
import { View } from 'react-native';
import { writePlanSettings } from '@/data/plan';
import { Button, IconButton } from '@/ui/button';
import { DateField, SavedPicker, TimeField } from '@/ui/date-field';
import { Choice } from '@/ui/field';
import { SavedField } from '@/ui/saved-field';
import { Text } from '@/ui/text';
import X from 'lucide-react-native/icons/x';
import type { PlanScene } from './use-plan-scene';

type Props = {
  scene: Pick<PlanScene, 'learner' | 'settings' | 'viewer' | 'calendars' | 'mayEdit' | 'today'>;
};

const EVENING: Span = { from: 16 * 60 + 30, to: 18 * 60 };
/** Monday 5 January 1970 was a Monday: any one names the weekdays. */
const MONDAY = 4;

/** When a learner can work, and how they like to. Each change is saved as it is made. */
export function Times({ scene }: Props) {
  const { learner, settings, viewer, mayEdit, today, calendars } = scene;
  const [wrong, setWrong] = useState<Record<string, string>>({});
  const put = (change: Partial<Settings>, words: string, field: string) => {
    const next = { ...settings, ...change };
    const result = PlanSettings.safeParse(next);
    const problem = result.success
      ? next.shortest > next.longest
        ? 'The longest sitting is not shorter than the shortest.'
        : ''
      : (result.error.issues[0]?.message ?? 'That is not right.');
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
      <View role="group" aria-label="The way there and back" className="gap-2">
        <Text kind="lead" heading={3}>
          The way there and back
        </Text>
        <Text kind="small">Minutes before and after what is in a calendar.</Text>
        {Object.entries(settings.travel).map(([id, way]) => {
          const name = calendars.find((c) => c.id === id)?.name;
          if (!name) return null;
          const save = (which: 'before' | 'after') => (text: string) => {
            const minutes = Math.round(Number(text));
            if (minutes !== way[which])
              put(
                { travel: { ...settings.travel, [id]: { ...way, [which]: minutes } } },
                `${name}: the way changed`,
                `travel ${id}`,
              );
          };
          return (
            <View key={id} role="group" aria-label={name} className="gap-1">
              <View className="flex-row items-end gap-3">
                <Text className="min-w-0 flex-1 pb-3">{name}</Text>
                <View className="w-[76px]">
                  <SavedField
                    label="before"
                    inputMode="numeric"
                    disabled={!mayEdit}
                    value={String(way.before)}
                    onSave={save('before')}
                  />
                </View>
                <View className="w-[76px]">
                  <SavedField
                    label="after"
                    inputMode="numeric"
                    disabled={!mayEdit}
                    value={String(way.after)}
                    onSave={save('after')}
                  />
                </View>
                {mayEdit ? (
                  <IconButton
                    icon={X}
                    label={`No way for ${name}`}
                    onPress={() => {
                      const { [id]: _gone, ...travel } = settings.travel;
                      put({ travel }, `${name}: no way`, `travel ${id}`);
                    }}
                  />
                ) : null}
              </View>
              {wrong[`travel ${id}`] ? (
                <Text kind="small" role="alert" className="text-poppy">
                  {wrong[`travel ${id}`]}
                </Text>
              ) : null}
            </View>
          );
        })}
        {mayEdit ? (
          <Choice
            label="Add a calendar"
            value=""
            options={[
              { value: '', words: 'choose one' },
              ...calendars.filter((c) => !settings.travel[c.id]).map((c) => ({ value: c.id, words: c.name })),
            ]}
            onChange={(e) => {
              const id = e.currentTarget.value;
              if (id)
                put(
                  { travel: { ...settings.travel, [id]: { before: 15, after: 15 } } },
                  'A way added',
                  `travel ${id}`,
                );
            }}
          />
        ) : null}
      </View>
      <Text kind="small">{`In a week as usual that is ${hoursWords(settings.week.flat().reduce((sum, s) => sum + s.to - s.from, 0))}.`}</Text>
    </View>
  );
}

interface DaySpansProps {
  name: string;
  spans: readonly Span[];
  viewer: { hours?: 12 | 24 };
  mayEdit: boolean;
  error: string | undefined;
  onChange(spans: Span[]): void;
  onForget?: () => void;
}

/** The spans of a day: changed, taken out, or another one added. */
function DaySpans({ name, spans, viewer, mayEdit, error, onChange, onForget }: DaySpansProps) {
  if (!mayEdit)
    return (
      <Text>
        {`${name}: ${spans.map((s) => `${minuteWords(s.from, viewer.hours)} to ${minuteWords(s.to % 1440, viewer.hours)}`).join(', ') || 'nothing'}`}
      </Text>
    );
  const put = (n: number, change: Partial<Span>) =>
    onChange(
      spans.map((s, m) => {
        if (m !== n) return s;
        const next = { ...s, ...change };
        // An evening that ends before it begins ends after midnight.
        const to = next.to % 1440;
        return { from: next.from, to: to <= next.from ? to + 1440 : to };
      }),
    );
  const last = spans.at(-1);
  return (
    <View role="group" aria-label={name} className="gap-1.5 border-t border-line pt-2">
      <View className="flex-row items-center justify-between">
        <Text kind="label">
          {name}
          {spans.length ? '' : ': nothing'}
        </Text>
        <View className="flex-row">
          <Button
            kind="quiet"
            className="px-2"
            onPress={() =>
              onChange([
                ...spans,
                last && last.to < 1380 ? { from: last.to + 30, to: Math.min(1440, last.to + 90) } : EVENING,
              ])
            }
          >
            {spans.length ? 'Another span' : 'Add a span'}
          </Button>
          {onForget ? (
            <Button kind="quiet" className="px-2" onPress={onForget}>
              As usual
            </Button>
          ) : null}
        </View>
      </View>
      {spans.map((span, n) => (
        <View key={n} className="flex-row items-end gap-2">
          <View className="min-w-0 flex-1">
            <SavedPicker
              as={TimeField}
              label={`${name} from`}
              value={clockOf(span.from)}
              isRequired
              onSave={(text) => {
                const from = minuteOfClock(text);
                if (from !== null) put(n, { from });
              }}
            />
          </View>
          <View className="min-w-0 flex-1">
            <SavedPicker
              as={TimeField}
              label="to"
              value={clockOf(span.to)}
              isRequired
              onSave={(text) => {
                const to = minuteOfClock(text);
                if (to !== null) put(n, { to });
              }}
            />
          </View>
          <IconButton
            icon={X}
            label={`${name}: take this span out`}
            onPress={() => onChange(spans.filter((_, m) => m !== n))}
          />
        </View>
      ))}
      {error ? (
        <Text kind="small" role="alert" className="text-poppy">
          {error}
        </Text>
      ) : null}
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
