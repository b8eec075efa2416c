import { progressOf, sittingsKept, type Progress as Counts } from '@zephyrfield/core/plan/progress';
import { isDoubtful } from '@zephyrfield/core/plan/pace';
import { keyOf } from '@zephyrfield/core/item/occurrence';
import { KIND_GROUP_WORDS } from '@zephyrfield/core/item/words';
import { formatDate, startOfWeek } from '@zephyrfield/core/time/civil';
import { hoursWords, minuteOfDay } from '@zephyrfield/core/words/when';
import { plural } from '@zephyrfield/core/words/text';
import { useMemo, useState } from 'react';
import { View } from 'react-native';
import { changeLayer } from '@/data/layer';
import { writePlanSettings } from '@/data/plan';
import { Button } from '@/ui/button';
import { Choices } from '@/ui/choices';
import { Choice } from '@/ui/field';
import { Flag } from '@/ui/flag';
import { Part } from '@/ui/part';
import { Text } from '@/ui/text';
import { WeekChart } from './week-chart';
import type { PlanScene } from './use-plan-scene';

const SPANS = [
  ['4', 'four weeks'],
  ['8', 'eight weeks'],
  ['16', 'sixteen weeks'],
] as const;
type Span = (typeof SPANS)[number][0];

/** What became of the work: by week, by course, with the time it took, and the learner's pace. */
export function Progress({ scene }: { scene: PlanScene }) {
  const {
    all,
    viewer,
    loads,
    firstDay,
    today,
    plan,
    byId,
    runUps,
    now,
    learner,
    settings,
    taken,
    pace,
    mayEdit,
  } = scene;
  const [weeks, setWeeks] = useState<Span>('8');
  const [calendarId, setCalendarId] = useState('');
  const took = useMemo(() => new Map((plan?.took ?? []).map((t) => [keyOf(t), t.minutes])), [plan]);
  const { byWeek, byCourse } = useMemo(() => {
    const to = startOfWeek(today, firstDay) + 6;
    const counted = progressOf(calendarId ? all.filter((o) => o.calendarId === calendarId) : all, {
      viewer,
      loads,
      firstDay,
      from: to - Number(weeks) * 7 + 1,
      to,
      took,
    });
    return { byWeek: [...counted.weeks], byCourse: [...counted.courses] };
  }, [all, viewer, loads, firstDay, today, took, weeks, calendarId]);
  const kept = sittingsKept(runUps, today, minuteOfDay(now, viewer));
  const sum = byWeek.reduce((s, [, c]) => add(s, c), NOTHING);
  const doubtful = taken.filter(isDoubtful);
  return (
    <View className="mx-auto w-full max-w-[820px] px-4">
      <View className="flex-row flex-wrap items-end justify-between gap-x-4 gap-y-2 pt-2">
        <Choices<Span> label="Span" all={SPANS} value={weeks} onChange={setWeeks} />
        <View className="min-w-[180px]">
          <Choice
            label="Course"
            value={calendarId}
            options={[
              { value: '', words: 'all courses' },
              ...scene.calendars.map((c) => ({ value: c.id, words: c.name })),
            ]}
            onChange={(e) => setCalendarId(e.currentTarget.value)}
          />
        </View>
      </View>
      <Text className="pt-3">
        <Text kind="strong">{`${sum.finished} finished, ${sum.open} open.`}</Text>
        {sum.onTime + sum.late ? ` ${sum.onTime} in time, ${sum.late} late.` : ''}
        {sum.took ? ` ${hoursWords(sum.took)} taken for what was said to take ${hoursWords(sum.said)}.` : ''}
        {kept.of ? ` ${kept.kept} of ${plural(kept.of, 'sitting')} kept.` : ''}
      </Text>
      <Part title="By week" aside="by when it was due">
        <WeekChart weeks={byWeek} />
      </Part>
      <Part title="By course" aside="">
        {byCourse.length === 0 ? <Text className="text-ink2">Nothing was due.</Text> : null}
        {byCourse.map(([id, counts]) => {
          const calendar = byId.get(id);
          return (
            <View key={id} className="flex-row items-center gap-3 border-t border-line py-2">
              {calendar ? <Flag colour={calendar.colour} flag={calendar.flag} size={16} /> : null}
              <View className="min-w-0 flex-1">
                <Text kind="strong">{calendar?.name}</Text>
                <Text kind="small">{countWords(counts)}</Text>
              </View>
            </View>
          );
        })}
      </Part>
      <Part title="Pace" aside="">
        {pace.length ? (
          pace.map((p) => (
            <Text key={`${p.calendarId} ${p.kind}`}>
              {`${byId.get(p.calendarId)?.name}, ${KIND_GROUP_WORDS[p.kind as keyof typeof KIND_GROUP_WORDS].toLowerCase()}: ${p.factor.toFixed(1)} × as long as said, from ${p.from}.`}
            </Text>
          ))
        ) : (
          <Text className="text-ink2">
            Too little is known yet. The timer on an item’s sheet, or the minutes a sitting took, tell it.
          </Text>
        )}
        {doubtful.map(({ occurrence, took: minutes, said }) => (
          <View
            key={keyOf(occurrence)}
            className="flex-row flex-wrap items-center gap-x-3 rounded-lg bg-marigold-wash px-3 py-1"
          >
            <Text className="min-w-0 flex-1">{`Did ${occurrence.title} take ${hoursWords(minutes)}, or did the timer run on? It is not counted.`}</Text>
            {mayEdit ? (
              <Button
                kind="quiet"
                className="-ml-2 px-2"
                onPress={() =>
                  void changeLayer(
                    learner.id,
                    occurrence,
                    { spent: said },
                    {
                      words: `${occurrence.title}: ${hoursWords(said)} taken`,
                      back: { spent: minutes },
                    },
                  )
                }
              >
                {`Make it ${hoursWords(said)}`}
              </Button>
            ) : null}
          </View>
        ))}
        {mayEdit && taken.length ? (
          <Button
            kind="quiet"
            className="-ml-4 self-start"
            onPress={() =>
              void writePlanSettings(
                learner.id,
                { ...settings, paceSince: formatDate(today) },
                'The pace begins anew',
              )
            }
          >
            Forget the pace up to today
          </Button>
        ) : null}
      </Part>
    </View>
  );
}

const NOTHING: Counts = { finished: 0, open: 0, onTime: 0, late: 0, said: 0, took: 0 };
const add = (a: Counts, b: Counts): Counts => ({
  finished: a.finished + b.finished,
  open: a.open + b.open,
  onTime: a.onTime + b.onTime,
  late: a.late + b.late,
  said: a.said + b.said,
  took: a.took + b.took,
});

const countWords = ({ finished, open, onTime, late, said, took }: Counts): string =>
  [
    `${finished} finished, ${open} open`,
    onTime + late ? `${onTime} in time, ${late} late` : '',
    took ? `${hoursWords(took)} taken, ${hoursWords(said)} said` : '',
  ]
    .filter(Boolean)
    .join(' · ');
