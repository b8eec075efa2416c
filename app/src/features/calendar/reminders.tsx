import type { ItemView } from '@zephyrfield/core/api/schemas';
import { ruleWords } from '@zephyrfield/core/notify/rules';
import { instantOf } from '@zephyrfield/core/time/when';
import { plural } from '@zephyrfield/core/words/text';
import { shortWhen, type Viewer } from '@zephyrfield/core/words/when';
import { useState } from 'react';
import { View } from 'react-native';
import { useSettings } from '@/data/learner';
import { changeLayer } from '@/data/layer';
import { Button } from '@/ui/button';
import { ReminderRules } from '@/ui/reminder-rules';
import { Text } from '@/ui/text';

// The form comes when somebody wants it otherwise.
const OF = { start: '', due: '', aim: ', for your aim', pastDue: ', if it is still open' } as const;

/** When one is told of an item, and a way to have it otherwise. */
export function Reminders({
  item,
  learnerId,
  viewer,
  mayEdit,
}: {
  item: ItemView;
  learnerId: string;
  viewer: Viewer;
  mayEdit: boolean;
}) {
  const { occurrence, reminders } = item;
  const { hours } = useSettings();
  const [changing, setChanging] = useState(false);
  const put = (rules: typeof reminders.own, words: string) =>
    void changeLayer(
      learnerId,
      occurrence,
      { reminders: rules },
      { words: `${occurrence.title}: ${words}`, back: { reminders: reminders.own } },
    );
  if (occurrence.undated) return null;
  return (
    <View role="group" aria-label="Reminders" className="gap-1">
      <Text kind="lead" heading={3}>
        Reminders
      </Text>
      {reminders.moments.map((m) => (
        <Text key={m.at}>
          {shortWhen(instantOf(Date.parse(m.at)), viewer)}
          <Text kind="small">{OF[m.of]}</Text>
        </Text>
      ))}
      {reminders.moments.length === 0 ? <Text className="text-ink2">No reminders to come.</Text> : null}
      {reminders.alarms ? (
        <Text kind="small">{`By ${plural(reminders.alarms, 'alarm')} of its feed.`}</Text>
      ) : null}
      {changing ? (
        <ReminderRules
          label="Reminders of this item"
          rules={reminders.rules}
          hours={hours}
          withMoment
          onChange={(rules) =>
            put(
              rules,
              rules.length > reminders.rules.length
                ? `reminder ${ruleWords(rules.at(-1)!, hours)}`
                : 'one reminder removed',
            )
          }
        />
      ) : null}
      {mayEdit ? (
        <View className="-ml-4 flex-row flex-wrap">
          <Button kind="quiet" onPress={() => setChanging(!changing)}>
            {changing ? 'Done' : 'Change reminders'}
          </Button>
          {reminders.own ? (
            <Button kind="quiet" onPress={() => put(null, 'reminders as usual')}>
              Use the usual reminders
            </Button>
          ) : null}
        </View>
      ) : null}
    </View>
  );
}
