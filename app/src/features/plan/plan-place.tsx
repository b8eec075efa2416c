import { keyOf } from '@zephyrfield/core/item/occurrence';
import { planDays, sittingId, type SittingEntry } from '@zephyrfield/core/plan/plan-days';
import type { RunUpOf } from '@zephyrfield/core/plan/run-up';
import { formatDate, parseDate } from '@zephyrfield/core/time/civil';
import { plural } from '@zephyrfield/core/words/text';
import { longDay, hoursWords, shortDue } from '@zephyrfield/core/words/when';
import { useEffect, useMemo, useState } from 'react';
import { Pressable, ScrollView, View } from 'react-native';
import { router, useLocalSearchParams } from '@/router';
import { problemOf } from '@/data/client';
import { useOpenSitting } from '@/data/open-sitting';
import { writePlanSettings } from '@/data/plan';
import { moveSitting } from '@/data/sittings';
import { Button } from '@/ui/button';
import { Choices } from '@/ui/choices';
import { Contours } from '@/ui/contours';
import { Flag } from '@/ui/flag';
import { lazyComponent } from '@/ui/lazy';
import { Notice, ProblemNotice } from '@/ui/notice';
import { Sheet } from '@/ui/sheet';
import { Text } from '@/ui/text';
import { useIsWide } from '@/ui/use-is-wide';
import { Heaviest } from './before-after';
import { Evenings } from './evenings';
import { ProposalHead, ProposalWorks, TakePlan, useBeforeAfter } from './proposal-panel';
import { Standing, TROUBLE_WORDS } from './standing';
import { lengthOf, useProposal } from './use-proposal';
import { usePlanKeys } from './use-plan-keys';
import { usePlanScene, type PlanScene } from './use-plan-scene';
import { Weeks } from './weeks';

const Progress = lazyComponent(() => import('./progress').then((m) => m.Progress));
const Times = lazyComponent(() => import('@/lazy-forms').then((m) => m.Times));

type View_ = 'evenings' | 'weeks' | 'progress';
const VIEWS = [
  ['evenings', 'evenings'],
  ['weeks', 'weeks'],
  ['progress', 'progress'],
] as const;
/** So many days are shown at least, and at most. */
const LEAST = 14;
const MOST = 120;
/** So many evenings are drawn at first, and more at each asking. */
const STEP = 28;

/** When to sit down to what: evening after evening, what is not planned yet, and what does not fit. */
export function PlanPlace() {
  const scene = usePlanScene();
  const proposal = useProposal(scene);
  const asked = useLocalSearchParams<{ view?: string; plan?: string; times?: string }>();
  const view: View_ = VIEWS.find(([v]) => v === asked.view)?.[0] ?? 'evenings';
  const openId = useOpenSitting((s) => s.id);
  const [drawn, setDrawn] = useState(STEP);
  const [isTimes, setTimes] = useState(asked.times !== undefined);
  const closeTimes = () => {
    setTimes(false);
    if (asked.times !== undefined) router.setParams({ times: undefined });
  };
  const wide = useIsWide();
  const { planned, drafts } = proposal;

  // What is proposed stands in place of what is planned.
  const runUps = useMemo(() => {
    if (!planned) return scene.runUps;
    const next = new Map(planned.map((r) => [keyOf(r), r]));
    const stay = scene.runUps.filter((r) => !next.has(keyOf(r)));
    return [...stay, ...planned];
  }, [planned, scene.runUps]);
  const proposed = useMemo(() => {
    const standing = new Set(
      scene.runUps.flatMap((r) =>
        r.sittings.map((s) => `${keyOf(r)} ${s.key} ${s.day} ${s.from} ${s.minutes}`),
      ),
    );
    return new Set(
      (planned ?? []).flatMap((r) =>
        r.sittings
          .filter((s) => !standing.has(`${keyOf(r)} ${s.key} ${s.day} ${s.from} ${s.minutes}`))
          .map((s) => `${keyOf(r)} ${s.key}`),
      ),
    );
  }, [planned, scene.runUps]);
  const troubles = useMemo(
    () =>
      new Map(scene.troubles.flatMap((t) => ('sitting' in t ? [[sittingId(t), TROUBLE_WORDS[t.kind]]] : []))),
    [scene.troubles],
  );
  const days = useMemo(() => {
    const ahead = runUps.flatMap((r) => r.sittings.map((s) => parseDate(s.day)));
    // What went by and was not told stays in sight until it is.
    const open = scene.troubles.flatMap((t) => (t.kind === 'missed' ? [parseDate(t.sitting.day)] : []));
    const first = Math.max(scene.today - 14, Math.min(scene.today, ...open));
    const last = Math.min(scene.today + MOST, Math.max(scene.today + LEAST - 1, ...ahead));
    return planDays({ ...scene.schedule, runUps }, first, last - first + 1).filter(
      (d) => d.day >= scene.today || d.sittings.length,
    );
  }, [scene.schedule, scene.today, scene.troubles, runUps]);
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
  const { begin } = proposal;
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
          <View className="flex-row flex-wrap items-center justify-between gap-x-4 px-4 pt-3">
            <View className="flex-row flex-wrap items-center gap-x-4">
              <Text kind="display" heading={1}>
                Plan
              </Text>
              <Choices<View_>
                label="What to look at"
                all={VIEWS}
                value={view}
                onChange={(v) => router.setParams({ view: v === 'evenings' ? undefined : v })}
              />
            </View>
            {drafts && wide ? <HeaviestOf scene={scene} proposal={proposal} /> : null}
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
            <Weeks scene={scene} days={days} />
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
          {scene.isKnown && !runUps.length && !scene.unplanned.length && isSide ? (
            <View className="px-4 pt-6">
              <Contours height={120} />
            </View>
          ) : null}
        </ScrollView>
        {drafts && !wide ? (
          <View className="gap-2 border-t-2 border-lagoon bg-sheet px-4 py-3">
            <HeaviestOf scene={scene} proposal={proposal} />
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

/** Asked once: when there is time. */
function FirstAsking({ scene, onChange }: { scene: PlanScene; onChange(): void }) {
  const { learner, settings } = scene;
  return (
    <Notice kind="note" title="When is there time?">
      <Text>
        To begin with, a plan uses weekdays from 16:30 to 20:00, Saturday morning and Sunday afternoon, at
        most {hoursWords(settings.mostADay)} a day.
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

function HeaviestOf({ scene, proposal }: { scene: PlanScene; proposal: ReturnType<typeof useProposal> }) {
  const days = useBeforeAfter(scene, proposal);
  return days.length ? <Heaviest days={days} /> : null;
}

/** Big work that has no run-up yet: one at a time, or all at once. */
function Unplanned({ scene, onPlan }: { scene: PlanScene; onPlan(works: PlanScene['unplanned']): void }) {
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
                {`due ${o.due ? shortDue(o.due, viewer) : ''} · ${hoursWords(lengthOf(o, scene).minutes)}`}
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
