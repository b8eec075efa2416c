import type { PlanDay } from '@zephyrfield/core/plan/plan-days';
import type { RunUpOf } from '@zephyrfield/core/plan/run-up';
import { startOfWeek } from '@zephyrfield/core/time/civil';
import { dayWord, weekWord } from '@zephyrfield/core/view/load';
import { hoursWords, longDay, shortDay } from '@zephyrfield/core/words/when';
import { plural } from '@zephyrfield/core/words/text';
import { View } from 'react-native';
import { Barb } from '@/ui/barb';
import { Text } from '@/ui/text';
import { useWholeWeeks } from './use-plan-days';
import type { PlanScene } from './use-plan-scene';

interface Props {
  scene: PlanScene;
  runUps: readonly RunUpOf[];
  /** Day number of the last sitting */
  lastPlanned: number;
}

/** Week after week to the end of the term: how much each day asks for, with the sittings on it counted. */
export function Weeks({ scene, runUps, lastPlanned }: Props) {
  const days = useWholeWeeks(scene, runUps, lastPlanned);
  const weeks = new Map<number, PlanDay[]>();
  for (const day of days) {
    const week = startOfWeek(day.day, scene.firstDay);
    weeks.set(week, [...(weeks.get(week) ?? []), day]);
  }
  return (
    <View role="list" aria-label="Weeks" className="gap-3 px-4 pt-2">
      {[...weeks].map(([first, all]) => {
        const minutes = all.reduce((sum, d) => sum + d.minutes, 0);
        const sittings = all.reduce((sum, d) => sum + d.sittings.length, 0);
        return (
          <View key={first} role="listitem" className="gap-2 rounded-xl bg-sheet p-3 shadow-sm">
            <View className="flex-row flex-wrap items-baseline justify-between gap-x-3">
              <Text kind="lead" heading={3} className="font-display">
                {`${shortDay(all[0]!.day)} to ${shortDay(all.at(-1)!.day)}`}
              </Text>
              <Text kind="small">
                {[
                  minutes ? `${hoursWords(minutes)}, ${weekWord(minutes)}` : 'free',
                  sittings ? plural(sittings, 'sitting') : '',
                ]
                  .filter(Boolean)
                  .join(' · ')}
              </Text>
            </View>
            <View className="flex-row">
              {all.map((d) => (
                <View
                  key={d.day}
                  role="img"
                  aria-label={`${longDay(d.day)}: ${d.minutes ? `${hoursWords(d.minutes)}, ${dayWord(d.minutes)}` : 'free'}`}
                  className={`min-w-0 flex-1 items-center gap-1 rounded py-1 ${d.day === scene.today ? 'bg-lagoon-wash' : ''}`}
                >
                  <Text kind="tight" className="text-ink2">
                    {shortDay(d.day).split(' ').slice(0, 2).join(' ')}
                  </Text>
                  {d.minutes ? <Barb minutes={d.minutes} size={34} /> : <View className="h-[14px]" />}
                  <Text kind="tight">{d.minutes ? hoursWords(d.minutes) : '–'}</Text>
                </View>
              ))}
            </View>
          </View>
        );
      })}
    </View>
  );
}
