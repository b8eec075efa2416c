import { late } from '@/data/late';
import { keyOf } from '@zephyrfield/core/item/occurrence';
import { sittingId, type SittingEntry } from '@zephyrfield/core/plan/plan-days';
import type { RunUpOf } from '@zephyrfield/core/plan/run-up';
import { formatDate, parseDate } from '@zephyrfield/core/time/civil';
import { longDay } from '@zephyrfield/core/words/when';
import { useEffect, useMemo, useState } from 'react';
import { ScrollView, View } from 'react-native';
import { router, useLocalSearchParams } from '@/router';
import { problemOf } from '@/data/client';
import { useOpenSitting } from '@/data/open-sitting';
import { moveSitting } from '@/data/sittings';
import { Button } from '@/ui/button';
import { Contours } from '@/ui/contours';
import { lazyComponent } from '@/ui/lazy';
import { ProblemNotice } from '@/ui/notice';
import { Sheet } from '@/ui/sheet';
import { PlaceHead } from '@/ui/place-head';
import { Text } from '@/ui/text';
import { useIsWide } from '@/ui/use-is-wide';
import { Heaviest } from './before-after';
import { Evenings } from './evenings';
import { FirstAsking } from './first-asking';
import { ProposalHead, ProposalWorks, TakePlan } from './proposal-panel';
import { Standing, TROUBLE_WORDS } from './standing';
import { Unplanned } from './unplanned';
import { usePlanDays } from './use-plan-days';
import { usePlanKeys } from './use-plan-keys';
import { usePlanScene } from './use-plan-scene';
import { useProposal } from './use-proposal';
import { Weeks } from './weeks';
import type * as timesModule from './times';

declare module '@/data/late' {
  interface LateParts {
    Times: typeof timesModule.Times;
  }
}

const Progress = lazyComponent(() => import('./progress').then((m) => m.Progress));
const Times = lazyComponent(late('Times'));

type Look = 'evenings' | 'weeks' | 'progress';
const LOOKS: readonly Look[] = ['evenings', 'weeks', 'progress'];
/** Number of evenings that are drawn at first, and more at each asking. */
const STEP = 28;

/** When to sit down to what: evening after evening, what is not planned yet, and what does not fit. */
export function PlanPlace() {
  const scene = usePlanScene();
  const proposal = useProposal(scene);
  const asked = useLocalSearchParams<{ view?: string; plan?: string; times?: string }>();
  const view: Look = LOOKS.find((look) => look === asked.view) ?? 'evenings';
  const openId = useOpenSitting((s) => s.id);
  const [drawn, setDrawn] = useState(STEP);
  const [isTimes, setTimes] = useState(asked.times !== undefined);
  const closeTimes = () => {
    setTimes(false);
    if (asked.times !== undefined) router.setParams({ times: undefined });
  };
  const wide = useIsWide();
  const { drafts, begin } = proposal;

  const { days, proposed, runUps } = usePlanDays(scene, proposal);
  const troubles = useMemo(
    () =>
      new Map(scene.troubles.flatMap((t) => ('sitting' in t ? [[sittingId(t), TROUBLE_WORDS[t.kind]]] : []))),
    [scene.troubles],
  );
  const carry = (carried: SittingEntry, day: number) => {
    const date = formatDate(day);
    if (date === carried.sitting.day) return;
    void moveSitting(
      scene.learner.id,
      sittingId(carried),
      { day: date },
      `${carried.occurrence.title}: sitting on ${longDay(day)}`,
    );
  };
  // An item's sheet asks for its plan by the address.
  const wanted = scene.isKnown ? asked.plan : undefined;
  useEffect(() => {
    if (!wanted) return;
    const standing = scene.runUps.filter((r) => keyOf(r) === wanted);
    const occurrence = scene.byKey.get(wanted);
    if (standing.length) begin([], standing);
    else if (occurrence) begin([occurrence]);
    router.setParams({ plan: undefined });
    // Once for each asking.
  }, [wanted]); // eslint-disable-line react-hooks/exhaustive-deps
  usePlanKeys((id, by) => {
    const found = days.flatMap((d) => d.sittings).find((e) => sittingId(e) === id);
    if (found && scene.mayEdit && !drafts && found.sitting.state === 'planned')
      carry(found, parseDate(found.sitting.day) + by);
  });

  const asksTimes = scene.isKnown && scene.plan?.version === 0 && scene.mayEdit;
  const times = (
    <Button kind="quiet" className="-ml-4 self-start" onPress={() => setTimes(true)}>
      When there is time
    </Button>
  );
  const side = drafts ? (
    <View className="gap-4">
      <ProposalHead scene={scene} proposal={proposal} />
      {wide ? <ProposalWorks scene={scene} proposal={proposal} /> : null}
    </View>
  ) : (
    <View className="gap-4">
      <Standing scene={scene} onPlan={(standing: RunUpOf[]) => proposal.begin([], standing)} />
      <Unplanned scene={scene} onPlan={(works) => proposal.begin(works)} />
      {asksTimes ? <FirstAsking scene={scene} onChange={() => setTimes(true)} /> : wide ? times : null}
    </View>
  );
  const isSide = view !== 'progress';
  return (
    <View className="min-h-0 flex-1 wide:flex-row">
      <View className="min-h-0 min-w-0 flex-1">
        <ScrollView className="flex-1" contentContainerClassName="pb-10">
          <View className="px-4 pt-3">
            <PlaceHead title="To-do">
              {drafts && wide ? <Heaviest daysOf={proposal.evenings} /> : null}
            </PlaceHead>
          </View>
          <View className="px-4">
            <ProblemNotice problem={scene.failure && problemOf(scene.failure)} />
          </View>
          {!wide && isSide ? <View className="px-4 pb-3 pt-1">{side}</View> : null}
          {!scene.isKnown ? (
            <View role="status" aria-label="Loading the plan" className="m-4 h-24 rounded-xl bg-sheet" />
          ) : view === 'evenings' ? (
            <Evenings
              scene={scene}
              days={days.slice(0, drawn)}
              proposed={proposed}
              troubles={troubles}
              onOpen={(e) => useOpenSitting.getState().open(sittingId(e))}
              onCarry={carry}
            />
          ) : view === 'weeks' ? (
            <Weeks scene={scene} runUps={runUps} lastPlanned={days.at(-1)?.day ?? scene.today} />
          ) : (
            <Progress scene={scene} />
          )}
          {view === 'evenings' && days.length > drawn ? (
            <Button kind="quiet" className="self-start" onPress={() => setDrawn(drawn + STEP)}>
              Show later evenings
            </Button>
          ) : null}
          {!wide && isSide && !drafts && !asksTimes ? <View className="px-4 pt-4">{times}</View> : null}
          {!wide && isSide && drafts ? (
            <View className="gap-2 px-4 pt-4">
              <Text kind="title" heading={2}>
                The work of this plan
              </Text>
              <ProposalWorks scene={scene} proposal={proposal} />
            </View>
          ) : null}
          {scene.isKnown && !scene.runUps.length && !drafts && !scene.unplanned.length && isSide ? (
            <View className="px-4 pt-6">
              <Contours height={120} />
            </View>
          ) : null}
        </ScrollView>
        {drafts && !wide ? (
          <View className="gap-2 border-t-2 border-lagoon bg-sheet px-4 py-3">
            <Heaviest daysOf={proposal.evenings} />
            <TakePlan scene={scene} proposal={proposal} />
          </View>
        ) : null}
      </View>
      {wide && isSide && !openId && !isTimes ? (
        <View className="w-[348px] border-l border-line bg-paper">
          <ScrollView className="flex-1" contentContainerClassName="px-5 py-4">
            {side}
          </ScrollView>
          {drafts ? (
            <View className="border-t border-line px-5 py-4">
              <TakePlan scene={scene} proposal={proposal} />
            </View>
          ) : null}
        </View>
      ) : null}
      {isTimes ? (
        <Sheet label="When there is time" roomy onClose={closeTimes}>
          <View className="gap-4 pb-4">
            <Text kind="title" heading={2} className="pr-10">
              When there is time
            </Text>
            <Times scene={scene} />
          </View>
        </Sheet>
      ) : null}
    </View>
  );
}
