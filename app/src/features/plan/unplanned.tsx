import { keyOf, readyBy } from '@zephyrfield/core/item/occurrence';
import { plural } from '@zephyrfield/core/words/text';
import { hoursWords, shortDue } from '@zephyrfield/core/words/when';
import { useState } from 'react';
import { Pressable, View } from 'react-native';
import { Button } from '@/ui/button';
import { Flag } from '@/ui/flag';
import { Text } from '@/ui/text';
import { useIsWide } from '@/ui/use-is-wide';
import { lengthOf } from './use-proposal';
import type { PlanScene } from './use-plan-scene';

/** Big work that has no run-up yet: one at a time, or all at once. */
export function Unplanned({
  scene,
  onPlan,
}: {
  scene: PlanScene;
  onPlan(works: PlanScene['unplanned']): void;
}) {
  const { unplanned, viewer, byId, mayEdit, isKnown } = scene;
  const wide = useIsWide();
  const [isOpen, setOpen] = useState(wide);
  const [isAll, setAll] = useState(false);
  if (!isKnown) return null;
  if (!unplanned.length)
    return <Text className="text-ink2">All big work of the next six weeks is planned.</Text>;
  const shown = !isOpen ? [] : isAll ? unplanned : unplanned.slice(0, 5);
  return (
    <View role="group" aria-label="Not planned yet" className="gap-2">
      <View className="flex-row flex-wrap items-center justify-between gap-x-2">
        <View className="min-w-0">
          <Text kind={wide ? 'title' : 'lead'} heading={2}>
            Not planned yet
          </Text>
          {wide ? null : (
            <Pressable
              role="button"
              aria-expanded={isOpen}
              onPress={() => setOpen(!isOpen)}
              className="min-h-touch justify-center"
            >
              <Text kind="label" className="text-lagoon underline">
                {isOpen ? 'Fold' : `Show ${plural(unplanned.length, 'piece')} of work`}
              </Text>
            </Pressable>
          )}
        </View>
        {mayEdit ? (
          <Button kind="second" onPress={() => onPlan(unplanned)}>
            Plan what is big
          </Button>
        ) : null}
      </View>
      {shown.map((o) => {
        const calendar = byId.get(o.calendarId);
        return (
          <View key={keyOf(o)} className="flex-row overflow-hidden rounded-lg bg-sheet shadow-sm">
            <View className="min-w-0 flex-1 px-3 py-2">
              <View className="flex-row items-center gap-2">
                {calendar ? <Flag colour={calendar.colour} flag={calendar.flag} size={13} /> : null}
                <Text kind="strong" className="line-clamp-2 min-w-0 flex-1" dir="auto">
                  {o.title}
                </Text>
              </View>
              <Text kind="small">
                {`${o.due ? 'due' : 'sat'} ${shortDue(readyBy(o)!, viewer)} · ${hoursWords(lengthOf(o, scene).minutes)}`}
              </Text>
            </View>
            {mayEdit ? (
              <Button
                kind="quiet"
                aria-label={`Plan ${o.title}`}
                className="rounded-none border-l-2 border-dotted border-line"
                onPress={() => onPlan([o])}
              >
                Plan
              </Button>
            ) : null}
          </View>
        );
      })}
      {isOpen && unplanned.length > shown.length ? (
        <Button kind="quiet" className="-ml-4 self-start" onPress={() => setAll(true)}>
          {`Show all ${unplanned.length}`}
        </Button>
      ) : null}
    </View>
  );
}
