import { keyOf, readyBy } from '@zephyrfield/core/item/occurrence';
import { runUpWith, settingsWith, type Way } from '@zephyrfield/core/plan/ways';
import { daysAway, hoursWords, longDay, minuteWords, shortDue } from '@zephyrfield/core/words/when';
import { useMemo, useState } from 'react';
import { View } from 'react-native';
import { writePlanSettings } from '@/data/plan';
import { useIsWide } from '@/ui/use-is-wide';
import { useWays } from '@/data/planner';
import { Button } from '@/ui/button';
import { Notice } from '@/ui/notice';
import { Text } from '@/ui/text';
import { AskForTime } from './ask-for-time';
import type { PlanScene } from './use-plan-scene';
import type { Proposal } from './use-proposal';

interface Props {
  scene: PlanScene;
  proposal: Proposal;
  workKey: string;
  minutes: number;
}

/** What does not fit of a piece of work, in numbers, with the ways out and what each would do. */
export function Unfit({ scene, proposal, workKey, minutes }: Props) {
  const { asked, drafts, change } = proposal;
  const { viewer, settings, learner } = scene;
  const occurrence = scene.byKey.get(workKey)!;
  const runUp = drafts!.find((r) => keyOf(r) === workKey)!;
  const wide = useIsWide();
  // On a phone the evenings come first.
  const [isOpen, setOpen] = useState(wide);
  const [isAsking, setAsking] = useState(false);
  const sent = useMemo(() => {
    const { viewer: _functions, ...schedule } = asked!.schedule;
    return { ...schedule, zone: viewer.id, nightUntil: viewer.nightUntil ?? 0 };
  }, [asked, viewer]);
  const ways = useWays(isOpen ? sent : null, [...asked!.which], workKey);
  const take = (way: Way) => {
    if (way.kind === 'later') setAsking(true);
    else if (way.kind === 'day' || way.kind === 'more')
      void writePlanSettings(learner.id, settingsWith(settings, way), wayWords(way, scene));
    else change(runUpWith(runUp, way));
  };
  const by = readyBy(occurrence);
  return (
    <Notice
      kind="warning"
      title={`${occurrence.title}: ${hoursWords(minutes)} do not fit before ${by ? shortDue(by, viewer) : 'it is due'}.`}
    >
      {!isOpen ? (
        <Button kind="quiet" className="-ml-4 self-start" onPress={() => setOpen(true)}>
          Ways out
        </Button>
      ) : ways === null ? (
        <Text kind="small" role="status">
          Looking for ways out …
        </Text>
      ) : (
        <View className="items-start">
          {ways.map((way) => {
            const words = wayWords(way, scene);
            return way.kind === 'aim' ? (
              <Text key={way.kind} className="py-1">
                {words}
              </Text>
            ) : (
              <View key={way.kind} className="flex-row flex-wrap items-center">
                <Button kind="quiet" className="-ml-4" onPress={() => take(way)}>
                  {words}
                </Button>
                <Text kind="small">{`  ${way.left ? `${hoursWords(way.left)} left out` : 'all fits'}`}</Text>
              </View>
            );
          })}
          {ways.some((w) => w.kind === 'later') ? null : (
            <Button kind="quiet" className="-ml-4" onPress={() => setAsking(true)}>
              Ask for more time
            </Button>
          )}
        </View>
      )}
      {isAsking ? (
        <AskForTime scene={scene} occurrence={occurrence} runUp={runUp} onClose={() => setAsking(false)} />
      ) : null}
    </Notice>
  );
}

function wayWords(way: Way, { viewer, today }: PlanScene): string {
  const { hours } = viewer;
  switch (way.kind) {
    case 'day':
      return `Use ${longDay(way.day)}, ${minuteWords(way.span.from, hours)} to ${minuteWords(way.span.to, hours)}`;
    case 'more':
      return `${way.minutes} minutes more a day`;
    case 'twice':
      return 'Another sitting a day';
    case 'longer':
      return `Sittings of up to ${hoursWords(way.minutes)}`;
    case 'later':
      return `Ask for ${way.days === 1 ? 'a day' : `${way.days} days`} more`;
    case 'aim':
      return `To be finished ${longDay(way.day)} (${daysAway(way.day, today)}) would need ${hoursWords(way.left)} more.`;
  }
}
