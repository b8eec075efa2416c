import type { PlanSettings } from '@zephyrfield/core/plan/evenings';
import { hoursWords, minuteWords } from '@zephyrfield/core/words/when';
import { View } from 'react-native';
import { writePlanSettings } from '@/data/plan';
import { Button } from '@/ui/button';
import { Notice } from '@/ui/notice';
import { Text } from '@/ui/text';
import type { PlanScene } from './use-plan-scene';

/** Asked once: when there is time. */
export function FirstAsking({ scene, onChange }: { scene: PlanScene; onChange(): void }) {
  const { learner, settings, viewer } = scene;
  const spansWords = ({ week }: PlanSettings, day: number) =>
    week[day]!.map(
      (s) => `from ${minuteWords(s.from, viewer.hours)} to ${minuteWords(s.to % 1440, viewer.hours)}`,
    ).join(' and ');
  return (
    <Notice kind="note" title="When is there time?">
      <Text>
        {`To begin with, a plan uses weekdays ${spansWords(settings, 0)}, Saturdays ${spansWords(settings, 5)} and Sundays ${spansWords(settings, 6)}, at most ${hoursWords(settings.mostADay)} a day.`}
      </Text>
      <View className="flex-row flex-wrap gap-x-2">
        <Button
          kind="quiet"
          className="-ml-4"
          onPress={() => void writePlanSettings(learner.id, settings, 'When there is time: as usual')}
        >
          That is right
        </Button>
        <Button kind="quiet" onPress={onChange}>
          Change it
        </Button>
      </View>
    </Notice>
  );
}
