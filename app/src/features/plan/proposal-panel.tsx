import { keyOf } from '@zephyrfield/core/item/occurrence';
import type { Plan } from '@zephyrfield/core/plan/question';
import { minutesLeft } from '@zephyrfield/core/plan/run-up';
import { plural } from '@zephyrfield/core/words/text';
import { hoursWords, shortDue } from '@zephyrfield/core/words/when';
import { useState } from 'react';
import { Pressable, View } from 'react-native';
import { writeRunUps } from '@/data/plan';
import { Button } from '@/ui/button';
import { BoxAlone } from '@/ui/box';
import { Flag } from '@/ui/flag';
import { Text } from '@/ui/text';
import { BeforeAfter } from './before-after';
import { RunUpFields } from './run-up-fields';
import { Unfit } from './unfit';
import type { PlanScene } from './use-plan-scene';
import type { Proposal } from './use-proposal';

interface Props {
  scene: PlanScene;
  proposal: Proposal;
}

/** A plan before it is taken: what it makes of the evenings, and what does not fit. */
export function ProposalHead({ scene, proposal }: Props) {
  const { drafts, asked, plan, isLast, evenings, left } = proposal;
  if (!drafts || !asked) return null;
  const count = plan?.sittings.length ?? 0;
  const minutes = plan?.sittings.reduce((sum, s) => sum + s.minutes, 0) ?? 0;
  return (
    <View className="gap-4">
      <View className="gap-1">
        <Text kind="title" heading={2}>
          {`A plan for ${plural(drafts.length - left.size, 'piece')} of work`}
        </Text>
        <Text kind="small" role="status">
          {plan
            ? `${plural(count, 'sitting')}, ${hoursWords(minutes)}. Nothing stands in the calendar yet.${isLast ? '' : ' Looking for a better one …'}`
            : 'Looking for a plan …'}
        </Text>
      </View>
      <BeforeAfter daysOf={evenings} />
      {asked.tooLate.map((key) => (
        <Text key={key}>
          <Text kind="strong">{scene.byKey.get(key)?.title}</Text> is due before another evening comes.
        </Text>
      ))}
      {plan && isLast ? <AllUnfit scene={scene} proposal={proposal} unplaced={plan.unplaced} /> : null}
    </View>
  );
}

/** So much of what does not fit is drawn at first: of each the ways out are worked out. */
const FIRST = 3;

/** What does not fit, piece by piece. */
function AllUnfit({ scene, proposal, unplaced }: Props & { unplaced: Plan['unplaced'] }) {
  const [count, setCount] = useState(FIRST);
  return (
    <>
      {unplaced.slice(0, count).map((u) => (
        <Unfit key={u.work} scene={scene} proposal={proposal} workKey={u.work} minutes={u.minutes} />
      ))}
      {unplaced.length > count ? (
        <Button kind="quiet" className="-ml-4 self-start" onPress={() => setCount(count + FIRST)}>
          {`${unplaced.length - count} more do not fit`}
        </Button>
      ) : null}
    </>
  );
}

/** Number of pieces of work that are drawn at first. */
const FEW = 20;

/** Each piece of work of a plan: whether it is taken along, and how it is planned. */
export function ProposalWorks({ scene, proposal }: Props) {
  const { drafts, planned, left, change, toggle } = proposal;
  const [open, setOpen] = useState<string | null>(null);
  const [isAll, setAll] = useState(false);
  if (!drafts) return null;
  return (
    <View role="list" aria-label="The work of this plan" className="gap-2">
      {(isAll ? drafts : drafts.slice(0, FEW)).map((runUp) => {
        const key = keyOf(runUp);
        const occurrence = scene.byKey.get(key);
        if (!occurrence) return null;
        const calendar = scene.byId.get(occurrence.calendarId);
        const sittings = planned
          ?.find((r) => keyOf(r) === key)
          ?.sittings.filter((s) => s.state === 'planned');
        return (
          <View key={key} role="listitem" className="rounded-lg bg-sheet px-3 py-1 shadow-sm">
            <View className="flex-row items-center gap-2">
              <BoxAlone label={`Plan ${occurrence.title}`} on={!left.has(key)} onPress={() => toggle(key)} />
              {calendar ? <Flag colour={calendar.colour} flag={calendar.flag} size={14} /> : null}
              <View className="min-w-0 flex-1 py-1">
                <Text kind="strong" dir="auto" className="line-clamp-2">
                  {occurrence.title}
                </Text>
                <Text kind="small">
                  {[
                    occurrence.due
                      ? `due ${shortDue(occurrence.due, scene.viewer)}`
                      : `sat ${shortDue(occurrence.start, scene.viewer)}`,
                    hoursWords(minutesLeft(runUp)),
                    left.has(key) ? 'left out' : sittings ? plural(sittings.length, 'sitting') : '',
                  ]
                    .filter(Boolean)
                    .join(' · ')}
                </Text>
              </View>
              <Pressable
                role="button"
                aria-expanded={open === key}
                aria-label={`Change how ${occurrence.title} is planned`}
                onPress={() => setOpen(open === key ? null : key)}
                className="min-h-touch justify-center px-1"
              >
                <Text kind="label" className="text-lagoon underline">
                  {open === key ? 'Fold' : 'Change'}
                </Text>
              </Pressable>
            </View>
            {open === key ? (
              <RunUpFields scene={scene} occurrence={occurrence} runUp={runUp} onChange={change} />
            ) : null}
          </View>
        );
      })}
      {!isAll && drafts.length > FEW ? (
        <Button kind="quiet" className="-ml-4 self-start" onPress={() => setAll(true)}>
          {`Show all ${drafts.length}`}
        </Button>
      ) : null}
    </View>
  );
}

/** Takes the plan, or leaves it. */
export function TakePlan({ scene, proposal }: Props) {
  const { planned, plan, isCurrent, drop } = proposal;
  const [isBusy, setBusy] = useState(false);
  const take = async () => {
    setBusy(true);
    const changes = (planned ?? []).map(({ itemId, recurrenceId, ...runUp }) => ({
      itemId,
      recurrenceId,
      runUp,
    }));
    const sittings = plural(plan?.sittings.length ?? 0, 'sitting');
    if (await writeRunUps(scene.learner.id, changes, `${sittings} planned`)) drop();
    setBusy(false);
  };
  return (
    <View className="flex-row gap-3">
      <Button
        className="flex-1"
        busy={isBusy}
        disabled={!isCurrent || !planned?.length}
        onPress={() => void take()}
      >
        Take this plan
      </Button>
      <Button kind="second" onPress={drop}>
        Leave it
      </Button>
    </View>
  );
}
