import type { LearnersTable } from '@zephyrfield/core/api/table';
import { HELP_FIRST } from '@zephyrfield/core/plan/glance';
import { useState } from 'react';
import { ScrollView, View } from 'react-native';
import { useLocalSearchParams, router } from '@/router';
import { problemOf } from '@/data/client';
import { useDraft } from '@/data/draft';
import { useLearner } from '@/data/learner';
import { useLearnersTable, type Weeks } from '@/data/table';
import { Button } from '@/ui/button';
import { Choices } from '@/ui/choices';
import { Contours } from '@/ui/contours';
import { Choice, Field } from '@/ui/field';
import { ProblemNotice } from '@/ui/notice';
import { PlaceHead } from '@/ui/place-head';
import { Text } from '@/ui/text';
import { useIsWide } from '@/ui/use-is-wide';
import { ForSeveral } from './for-several';
import { Groups } from './groups';
import { LearnerPanel } from './learner-panel';
import { LearnerRows } from './learner-rows';
import { LearnerSlips } from './learner-slips';
import { TakeAlong } from './take-along';
import { WhoHasWhat } from './who-has-what';
import { firstName } from '@zephyrfield/core/words/text';
import { ORDERS, STATES, isShown, shortName, type Order, type Section, type State } from './words';

type Row = LearnersTable['rows'][number];

const SPANS = [
  ['5', '5 weeks'],
  ['10', '10 weeks'],
] as const;

/** What can be unfolded above the table. */
type Tool = 'filters' | 'groups' | 'several' | 'week' | 'more';

/** All learners somebody looks after, on one screen: who needs help, and what each has ahead. */
export function TablePlace() {
  const { viewer, learners } = useLearner()!;
  const wide = useIsWide();
  const [weeks, setWeeks] = useState<Weeks>('5');
  const [course, setCourse] = useState('');
  const [order, setOrder] = useState<Order>('help');
  const [state, setState] = useState<State>('all');
  const [group, setGroup] = useState('');
  const [week, setWeek] = useState<string | null>(null);
  const [open, setOpen] = useState<Tool | null>(null);
  const isWriting = useDraft((s) => s.openFor !== null);
  const table = useLearnersTable(weeks, course.trim());
  const choose = (id: string | undefined) => {
    setWeek(null);
    router.setParams({ who: id });
  };
  const { who } = useLocalSearchParams<{ who?: string }>();
  const data = table.data;
  const all = data?.rows ?? [];
  const inGroup = data?.groups.find((g) => g.name === group)?.learnerIds;
  const rows = all.filter((r) => isShown(r, state) && (!inGroup || inGroup.includes(r.learnerId)));
  const sections = sectionsOf(rows, data?.groups ?? [], order);
  const shown = all.find((r) => r.learnerId === who);
  const isNarrowed = state !== 'all' || course.trim() !== '';
  const tools: [Tool, string][] = wide
    ? [
        ['filters', isNarrowed ? 'Change the filter' : 'Filter'],
        ['groups', 'Groups'],
      ]
    : [
        ['filters', 'Order and filter'],
        ['week', 'A week'],
        ['several', 'A date for several'],
        ['more', 'More'],
      ];
  if (!learners.some((l) => !l.isSelf)) return <NobodyYet />;
  return (
    <View className="min-h-0 flex-1 flex-row">
      <ScrollView
        className="flex-1"
        contentContainerClassName="w-full gap-3 px-4 pb-12 pt-3 wide:px-6"
        keyboardShouldPersistTaps="handled"
      >
        <PlaceHead title="Crew" />
        <View className="flex-row flex-wrap items-center gap-x-4 gap-y-1">
          {data?.groups.length ? (
            <Choices
              label="Which learners"
              all={[['', `all ${all.length}`], ...data.groups.map((g) => [g.name, g.name] as const)]}
              value={inGroup ? group : ''}
              onChange={setGroup}
            />
          ) : null}
          <View className="flex-1" />
          {wide ? (
            <Button kind="second" aria-expanded={open === 'several'} onPress={() => toggle('several')}>
              Write a date for several
            </Button>
          ) : null}
        </View>
        <View className="-ml-2 flex-row flex-wrap items-center gap-x-2 wide:ml-0">
          {wide ? (
            <>
              <Choices<Order> label="In which order" all={ORDERS} value={order} onChange={setOrder} />
              <View className="flex-1" />
            </>
          ) : null}
          {tools.map(([what, words]) => (
            <Button
              key={what}
              kind="quiet"
              className="px-2"
              aria-expanded={open === what}
              onPress={() => toggle(what)}
            >
              {words}
            </Button>
          ))}
          {wide ? <TakeAlong rows={rows} weeks={data?.weeks ?? []} viewer={viewer} /> : null}
        </View>
        {open === 'week' ? (
          <Choices
            label="Who has what in"
            all={(data?.weeks ?? []).map(({ start, name }) => [start, shortName(name)] as const)}
            value={week ?? ''}
            onChange={setWeek}
          />
        ) : null}
        {open === 'more' ? (
          <View className="flex-row flex-wrap items-center gap-x-2">
            <Button kind="quiet" className="px-2" onPress={() => setOpen('groups')}>
              Groups
            </Button>
            <TakeAlong rows={rows} weeks={data?.weeks ?? []} viewer={viewer} />
          </View>
        ) : null}
        {open === 'filters' ? (
          <View role="group" aria-label="Filter" className="gap-3 rounded-xl bg-sheet p-4 wide:flex-row">
            {wide ? null : (
              <Choices<Order> label="In which order" all={ORDERS} value={order} onChange={setOrder} />
            )}
            <View className="flex-1">
              <Field
                label="Only courses whose name has"
                hint="Counts and hours are then of these alone"
                value={course}
                onChange={(e) => setCourse(e.currentTarget.value)}
              />
            </View>
            <View className="flex-1">
              <Choice
                label="Only those"
                value={state}
                options={STATES.map(([value, words]) => ({ value, words }))}
                onChange={(e) => setState(e.currentTarget.value as State)}
              />
            </View>
            <View className="gap-0.5">
              <Text kind="label">Weeks ahead</Text>
              <Choices<Weeks> label="Weeks ahead" all={SPANS} value={weeks} onChange={setWeeks} />
            </View>
          </View>
        ) : null}
        {isNarrowed ? (
          <View className="flex-row flex-wrap items-center gap-x-3">
            <Text kind="small">{narrowedWords(rows.length, all.length, state, course.trim())}</Text>
            <Button
              kind="quiet"
              className="px-2"
              onPress={() => {
                setState('all');
                setCourse('');
              }}
            >
              Show all
            </Button>
          </View>
        ) : null}
        {open === 'groups' ? (
          <Groups groups={data?.groups ?? []} learners={all} onClose={() => setOpen(null)} />
        ) : null}
        <ProblemNotice problem={table.error && problemOf(table.error)} />
        {table.isPending ? (
          <View role="status" aria-label="Loading the table" className="h-64 rounded-xl bg-sheet" />
        ) : null}
        {open === 'several' ? <ForSeveral rows={rows} viewer={viewer} onClose={() => setOpen(null)} /> : null}
        {data && wide ? (
          <LearnerRows
            sections={sections}
            weeks={data.weeks}
            week={week}
            chosen={shown?.learnerId ?? null}
            isNarrow={shown !== undefined || week !== null || isWriting}
            viewer={viewer}
            onWeek={(start) => setWeek(start === week ? null : start)}
            onLearner={choose}
          />
        ) : data ? (
          <LearnerSlips sections={sections} weeks={data.weeks} viewer={viewer} onLearner={choose} />
        ) : null}
        {data && !rows.length ? <Text>Nobody is like that just now.</Text> : null}
      </ScrollView>
      {week ? (
        <WhoHasWhat rows={rows} week={week} viewer={viewer} onClose={() => setWeek(null)} />
      ) : shown ? (
        <LearnerPanel row={shown} onClose={() => choose(undefined)} />
      ) : null}
    </View>
  );

  function toggle(what: Tool) {
    setOpen(open === what ? null : what);
  }
}

function sectionsOf(rows: readonly Row[], groups: LearnersTable['groups'], order: Order): Section[] {
  const byName = [...rows].sort((a, b) => a.name.localeCompare(b.name));
  const filled = (sections: Section[]) => sections.filter((s) => s.rows.length);
  if (order === 'name') return filled([{ title: '', rows: byName }]);
  if (order === 'group') {
    const known = new Set(groups.flatMap((g) => g.learnerIds));
    return filled([
      ...groups.map(({ name, learnerIds }) => ({
        title: name,
        rows: byName.filter((r) => learnerIds.includes(r.learnerId)),
      })),
      { title: groups.length ? 'In no group' : '', rows: byName.filter((r) => !known.has(r.learnerId)) },
    ]);
  }
  const byNeed = [...byName].sort((a, b) => b.score - a.score);
  return filled([
    { title: 'Help first', rows: byNeed.filter((r) => r.score >= HELP_FIRST) },
    { title: 'On their way', rows: byNeed.filter((r) => r.score < HELP_FIRST) },
  ]);
}

function narrowedWords(shown: number, all: number, state: State, course: string): string {
  const words = [
    state === 'all' ? '' : STATES.find(([each]) => each === state)![1],
    course ? `courses with “${course}” in their name` : '',
  ].filter(Boolean);
  return `${shown} of ${all}: ${words.join(', ')}`;
}

function NobodyYet() {
  const { learner } = useLearner()!;
  return (
    <View className="mx-auto w-full max-w-[760px] gap-3 px-4 pt-3">
      <PlaceHead title="Crew" />
      <Text>
        Every learner you look after has a row here. You see no schedule but {firstName(learner.name)}’s own
        yet: whoever keeps one can invite you.
      </Text>
      <Contours height={140} />
    </View>
  );
}
