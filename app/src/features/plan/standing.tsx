import { keyOf } from '@zephyrfield/core/item/occurrence';
import { missedInARow, standingTitle, type Trouble } from '@zephyrfield/core/plan/standing';
import { isOpen, type RunUpOf } from '@zephyrfield/core/plan/run-up';
import { plural } from '@zephyrfield/core/words/text';
import { hoursWords } from '@zephyrfield/core/words/when';
import { useState } from 'react';
import { View } from 'react-native';
import { writeRunUps } from '@/data/plan';
import { Button } from '@/ui/button';
import { Notice } from '@/ui/notice';
import { Text } from '@/ui/text';
import { AskForTime } from './ask-for-time';
import type { PlanScene } from './use-plan-scene';

/** So many are named; the rest is counted, so that the way out stays in sight. */
const FEW = 6;

/** What is wrong with one sitting, in a word or two. */
export const TROUBLE_WORDS: Record<Exclude<Trouble['kind'], 'gone' | 'short'>, string> = {
  missed: 'went by',
  busy: 'you have to be somewhere',
  notFree: 'outside your evenings',
  tooLate: 'too late now',
};

/** What no longer holds, with a new plan at one press; and a kind question after three missed evenings. */
export function Standing({ scene, onPlan }: { scene: PlanScene; onPlan(runUps: RunUpOf[]): void }) {
  const { troubles, runUps, mayEdit, byKey, schedule } = scene;
  const keys = [...new Set(troubles.map((t) => t.key))];
  const gone = keys.filter((key) => troubles.some((t) => t.key === key && t.kind === 'gone'));
  const wrong = keys.filter((key) => !gone.includes(key));
  const stuck = runUps.filter((r) => missedInARow(r, schedule) >= 3 && isOpen(byKey.get(keyOf(r))));
  return (
    <>
      {wrong.length ? (
        <Notice kind="warning" title={standingTitle(troubles.filter((t) => wrong.includes(t.key)))}>
          {wrong.slice(0, FEW).map((key) => (
            <Text key={key}>
              <Text kind="strong">{byKey.get(key)?.title}</Text>
              {`: ${countWords(troubles.filter((t) => t.key === key))}`}
            </Text>
          ))}
          {wrong.length > FEW ? <Text>{`and ${wrong.length - FEW} more`}</Text> : null}
          {mayEdit ? (
            <Button
              className="mt-2 self-start"
              onPress={() => onPlan(runUps.filter((r) => wrong.includes(keyOf(r))))}
            >
              Make a new plan
            </Button>
          ) : null}
        </Notice>
      ) : null}
      {gone.map((key) => (
        <Gone key={key} scene={scene} workKey={key} />
      ))}
      {mayEdit
        ? stuck.map((r) => <Stuck key={keyOf(r)} scene={scene} runUp={r} onPlan={() => onPlan([r])} />)
        : null}
    </>
  );
}

function countWords(troubles: readonly Trouble[]): string {
  const count = (kind: Trouble['kind']) => troubles.filter((t) => t.kind === kind).length;
  const short = troubles.reduce((sum, t) => sum + (t.kind === 'short' ? t.minutes : 0), 0);
  return [
    count('missed') ? `${plural(count('missed'), 'sitting')} went by` : '',
    count('busy') ? `${plural(count('busy'), 'sitting')} where you have to be somewhere` : '',
    count('notFree') ? `${plural(count('notFree'), 'sitting')} outside your evenings` : '',
    count('tooLate') ? `${plural(count('tooLate'), 'sitting')} too late now` : '',
    short ? `${hoursWords(short)} without a sitting` : '',
  ]
    .filter(Boolean)
    .join(', ');
}

/** Work that is called off, or is not there any more: its sittings can go. */
function Gone({ scene, workKey }: { scene: PlanScene; workKey: string }) {
  const { byKey, learner, mayEdit } = scene;
  const [itemId, recurrenceId = ''] = workKey.split(' ');
  const title = byKey.get(workKey)?.title;
  return (
    <Notice kind="warning" title={title ? `${title} is called off` : 'This work is not there any more'}>
      {mayEdit ? (
        <Button
          kind="second"
          className="self-start"
          onPress={() =>
            void writeRunUps(
              learner.id,
              [{ itemId: itemId!, recurrenceId, runUp: null }],
              `${title}: sittings taken out`,
            )
          }
        >
          Take its sittings out
        </Button>
      ) : null}
    </Notice>
  );
}

/** Three evenings or more were missed: whether the work is smaller than thought, wants help, or more time. */
function Stuck({ scene, runUp, onPlan }: { scene: PlanScene; runUp: RunUpOf; onPlan(): void }) {
  const occurrence = scene.byKey.get(keyOf(runUp))!;
  const [asking, setAsking] = useState<'time' | 'help' | null>(null);
  return (
    <Notice
      kind="note"
      title={`The last ${missedInARow(runUp, scene.schedule)} evenings for ${occurrence.title} did not happen. That is all right.`}
    >
      <Text>Is it smaller than you thought, do you want help with it, or more time?</Text>
      <View className="flex-row flex-wrap gap-x-3">
        <Button kind="quiet" className="-ml-4" onPress={onPlan}>
          It is smaller
        </Button>
        <Button kind="quiet" className="-ml-4" onPress={() => setAsking('help')}>
          Ask for help
        </Button>
        <Button kind="quiet" className="-ml-4" onPress={() => setAsking('time')}>
          Ask for more time
        </Button>
      </View>
      {asking ? (
        <AskForTime
          key={asking}
          scene={scene}
          occurrence={occurrence}
          runUp={runUp}
          about={asking}
          onClose={() => setAsking(null)}
        />
      ) : null}
    </Notice>
  );
}
