import type { OccurrenceView } from '@zephyrfield/core/api/schemas';
import { keyOf } from '@zephyrfield/core/item/occurrence';
import { sittingId, type PlanDay, type SittingEntry } from '@zephyrfield/core/plan/plan-days';
import { MINUTE } from '@zephyrfield/core/time/civil';
import { localIn } from '@zephyrfield/core/time/when';
import { dayWord } from '@zephyrfield/core/view/load';
import { clockTime, hoursWords, shortDay, spanWords } from '@zephyrfield/core/words/when';
import { View } from 'react-native';
import { Barb } from '@/ui/barb';
import { Flag } from '@/ui/flag';
import { Text } from '@/ui/text';
import { CarryArea, Carried, Evening } from './carry';
import { Strip } from '@/ui/strip';
import type { PlanScene } from './use-plan-scene';

interface Props {
  scene: PlanScene;
  days: readonly PlanDay[];
  /** Sittings that stand nowhere yet, as `key sitting` */
  proposed: ReadonlySet<string>;
  /** What no longer holds, by `key sitting` */
  troubles: ReadonlyMap<string, string>;
  onOpen(entry: SittingEntry): void;
  onCarry(entry: SittingEntry, day: number): void;
}

/** Evening after evening: how much it asks for, where one has to be, and the sittings by their hours. */
export function Evenings({ scene, days, proposed, troubles, onOpen, onCarry }: Props) {
  const may = scene.mayEdit && proposed.size === 0;
  return (
    <CarryArea may={may} onCarry={onCarry}>
      <View role="list" aria-label="Evenings">
        {days.map((day) => (
          <Evening key={day.day} day={day.day} isToday={day.day === scene.today}>
            <DayHead scene={scene} day={day} />
            <View className="min-w-0 flex-1 justify-center gap-1.5 wide:flex-row wide:flex-wrap wide:content-center wide:items-center wide:justify-start">
              {inTime(day, scene).map((part) =>
                'key' in part ? (
                  <Carried key={sittingId(part)} entry={part} may={may && part.sitting.state === 'planned'}>
                    <Strip
                      entry={part}
                      calendar={scene.byId.get(part.occurrence.calendarId)}
                      hours={scene.viewer.hours ?? 24}
                      isProposed={proposed.has(sittingId(part))}
                      trouble={troubles.get(sittingId(part))}
                      onOpen={proposed.size ? undefined : () => onOpen(part)}
                    />
                  </Carried>
                ) : (
                  <Place key={keyOf(part)} scene={scene} occurrence={part} />
                ),
              )}
              {day.sittings.length + day.places.length === 0 ? (
                <Text kind="small" className="hidden wide:flex">
                  nothing planned
                </Text>
              ) : null}
            </View>
            <Due scene={scene} day={day} />
          </Evening>
        ))}
      </View>
    </CarryArea>
  );
}

/** Sittings and places of a day, by the clock. */
function inTime(day: PlanDay, { viewer }: PlanScene): (SittingEntry | OccurrenceView)[] {
  const minute = (part: SittingEntry | OccurrenceView) =>
    'key' in part ? part.sitting.from : Math.floor(localIn(part.start, viewer) / MINUTE) - day.day * 1440;
  return [...day.places, ...day.sittings].sort((a, b) => minute(a) - minute(b));
}

function DayHead({ scene, day }: { scene: PlanScene; day: PlanDay }) {
  const [weekday, ...date] = shortDay(day.day).split(' ');
  return (
    <View className="flex-row items-center justify-between gap-2 wide:w-[150px] wide:flex-col wide:items-start wide:justify-center wide:gap-0">
      <Text className="font-display text-lead font-bold" role="heading" aria-level={2}>
        {weekday} {date[0]}
        <Text kind="small" className="font-text">
          {day.day === scene.today ? ' tonight' : ` ${date[1]}`}
        </Text>
      </Text>
      {day.minutes ? (
        <View className="flex-row items-center gap-1.5">
          <Barb minutes={day.minutes} size={32} />
          <Text kind="small">{`${hoursWords(day.minutes)}, ${dayWord(day.minutes)}`}</Text>
        </View>
      ) : (
        <Text kind="small">nothing planned</Text>
      )}
    </View>
  );
}

function Place({ scene, occurrence }: { scene: PlanScene; occurrence: OccurrenceView }) {
  return (
    <View className="bg-line/50 min-w-0 flex-row items-center gap-2 rounded-lg border-l-[5px] border-slate px-3 py-1.5">
      <Text kind="label">{spanWords(occurrence.start, occurrence.end, scene.viewer)}</Text>
      <Text kind="small" className="min-w-0 shrink text-ink" numberOfLines={1} dir="auto">
        {occurrence.title}
      </Text>
    </View>
  );
}

/** What is due that day, at the end of its row. */
function Due({ scene, day }: { scene: PlanScene; day: PlanDay }) {
  const planned = new Set(scene.runUps.map(keyOf));
  const big = day.due.filter((o) => planned.has(keyOf(o)));
  if (!big.length) return <View className="hidden wide:flex wide:w-[92px]" />;
  return (
    <View className="gap-1 wide:w-[92px]">
      {big.map((o) => {
        const calendar = scene.byId.get(o.calendarId);
        return (
          <View key={keyOf(o)} className="flex-row items-center gap-1.5">
            {calendar ? <Flag colour={calendar.colour} flag={calendar.flag} size={13} /> : null}
            <Text kind="small" className="min-w-0 shrink text-ink" numberOfLines={2}>
              due{o.due && o.due.kind !== 'date' ? ` ${clockTime(o.due, scene.viewer)}` : ''}
              <Text kind="small" className="wide:hidden">{` · ${o.title}`}</Text>
            </Text>
          </View>
        );
      })}
    </View>
  );
}
