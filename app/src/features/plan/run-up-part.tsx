import type { OccurrenceView } from '@zephyrfield/core/api/schemas';
import { keyOf } from '@zephyrfield/core/item/occurrence';
import { sittingEntries, sittingId } from '@zephyrfield/core/plan/plan-days';
import { isPlannable, minutesLeft } from '@zephyrfield/core/plan/run-up';
import { parseDate } from '@zephyrfield/core/time/civil';
import { hoursWords, shortDay, type Viewer } from '@zephyrfield/core/words/when';
import { useMemo } from 'react';
import { View } from 'react-native';
import { router } from '@/router';
import { useOpenSitting } from '@/data/open-sitting';
import { useRunUps, writeRunUps } from '@/data/plan';
import { useCalendars } from '@/data/queries';
import { Button } from '@/ui/button';
import { Strip } from '@/ui/strip';
import { Text } from '@/ui/text';

interface Props {
  occurrence: OccurrenceView;
  learnerId: string;
  viewer: Viewer;
  now: number;
  mayEdit: boolean;
}

/** The run-up of an item, on its sheet: its sittings, or the way to begin one. */
export function RunUpPart({ occurrence, learnerId, viewer, now, mayEdit }: Props) {
  const runUps = useRunUps(learnerId);
  const calendar = useCalendars(learnerId).data?.find((c) => c.id === occurrence.calendarId);
  const key = keyOf(occurrence);
  const runUp = runUps.find((r) => keyOf(r) === key);
  const entries = useMemo(
    () => (runUp ? sittingEntries({ occurrences: [occurrence], runUps: [runUp] }) : []),
    [occurrence, runUp],
  );
  if (!runUp && !(mayEdit && isPlannable(occurrence, now, viewer))) return null;
  const plan = () => router.push(`/plan?plan=${encodeURIComponent(key)}`);
  return (
    <View role="group" aria-label="Run-up" className="gap-2">
      <Text kind="lead" heading={3}>
        Run-up
      </Text>
      {runUp ? (
        <>
          <Text kind="small">
            {occurrence.finished
              ? 'The work is finished.'
              : `${hoursWords(minutesLeft(runUp))} of ${hoursWords(runUp.minutes)} still to do`}
          </Text>
          {entries.map((entry) => (
            <View key={sittingId(entry)} className="gap-0.5">
              <Text kind="small">{shortDay(parseDate(entry.sitting.day))}</Text>
              <Strip
                entry={entry}
                calendar={calendar}
                hours={viewer.hours ?? 24}
                onOpen={() => useOpenSitting.getState().open(sittingId(entry))}
              />
            </View>
          ))}
          {mayEdit && !occurrence.finished ? (
            <View className="flex-row flex-wrap gap-x-2">
              <Button kind="quiet" className="-ml-4" onPress={plan}>
                Plan it anew
              </Button>
              <Button
                kind="quiet"
                onPress={() =>
                  void writeRunUps(
                    learnerId,
                    [{ itemId: occurrence.itemId, recurrenceId: occurrence.recurrenceId, runUp: null }],
                    `${occurrence.title}: no run-up`,
                  )
                }
              >
                Take it out
              </Button>
            </View>
          ) : null}
        </>
      ) : (
        <Button kind="second" className="self-start" onPress={plan}>
          Plan a run-up
        </Button>
      )}
    </View>
  );
}
