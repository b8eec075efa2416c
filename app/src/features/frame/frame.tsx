import { late } from '@/data/late';
import { Slot, router, useGlobalSearchParams, usePathname } from '@/router';
import { useEffect, useMemo, useRef, type ReactNode } from 'react';
import { View } from 'react-native';
import type { Session } from '@zephyrfield/core/api/schemas';
import { problemOf } from '@/data/client';
import { useLearner } from '@/data/learner';
import { useLiveUpdates } from '@/data/live';
import { useSession } from '@/data/queries';
import { useScreen } from '@/data/screen';
import { useSeeAs } from '@/data/see-as';
import { useTheme } from '@/data/theme';
import { Button } from '@/ui/button';
import { Coming } from '@/ui/coming';
import { Guard } from '@/ui/guard';
import { lazyComponent } from '@/ui/lazy';
import { Notice } from '@/ui/notice';
import { FieldHabits } from '@/ui/field-habits';
import { Ways } from '@/ui/place-head';
import { SkipLink } from '@/ui/skip-link';
import { Text } from '@/ui/text';
import { watchSlips } from '@/ui/slip-focus';
import { useChoiceKeys } from '@/ui/use-choice-keys';
import { DoorBar, Oneself, Rooms, WayBack } from './door-bar';
import { pageName } from './doors';
import { KeptLine } from './kept-line';
import { LearnerLine } from './learner-line';
import { TimerLine } from './timer-line';
import { UndoBar } from './undo-bar';
import { useHabits } from './use-habits';
import { useUndoKeys } from './use-undo-keys';
import type * as seeAsLineModule from './see-as-line';

declare module '@/data/late' {
  interface LateParts {
    SeeAsLine: typeof seeAsLineModule.SeeAsLine;
  }
}

const SeeAsLine = lazyComponent(late('SeeAsLine'));

export interface FrameProps {
  /** Shown above everything in the demo */
  strip(session: Session): ReactNode;
  /** In place of the page for who is not signed in */
  signIn: ReactNode;
  /** In place of the page for who has no schedule to look at */
  firstLearner(name: string): ReactNode;
  /**
   * The calendar. It stands here and not in its route, since every step of looking is an address of its own,
   * and a route would begin anew with each: scroll, focus and all.
   */
  calendar: ReactNode;
  /** What is being written down, over whatever place one is in */
  writing: ReactNode;
  /** Signs the demo's first visitor in */
  enterDemo(): void;
}

/** What stands around every page: who is signed in, the places, and whose schedule it is. */
export function Frame({ strip, signIn, firstLearner, calendar, writing, enterDemo }: FrameProps) {
  const path = usePathname();
  const { data: session, error, refetch } = useSession();
  useLiveUpdates(useLearner()?.learner.id);
  useLearnerOfLink(session);
  useTodayAfterSigningInAgain(session);
  useTheme();
  useChoiceKeys();
  useEffect(watchSlips, []);
  useUndoKeys(useLearner()?.learner);
  const habits = useHabits();
  const isSeenAs = useSeeAs((s) => s.as !== null);
  const name = usePageName(path);
  const ways = useMemo(
    () => ({
      rooms: isSeenAs && path !== '/todo' && path !== '/plan' ? null : <Rooms />,
      back: <WayBack />,
      whose: (
        <View className="hidden wide:flex">
          <LearnerLine />
        </View>
      ),
      self: isSeenAs || path === '/you' ? null : <Oneself isHere={false} />,
    }),
    [isSeenAs, path],
  );
  const isStranger = Boolean(session && !session.person);
  const demo = Boolean(session?.demo);
  useEffect(() => {
    if (isStranger && demo) enterDemo();
    // Once per change of who is signed in; the callback's own identity does not matter.
  }, [isStranger, demo]); // eslint-disable-line react-hooks/exhaustive-deps

  if (!session) return <Beginning problem={error && problemOf(error)} retry={() => void refetch()} />;
  if (!session.person)
    return session.demo ? (
      <Beginning problem={null} retry={() => {}} />
    ) : (
      <View role="main" className="flex-1 bg-paper">
        {signIn}
      </View>
    );
  if (!session.learners.length)
    return (
      <View role="main" className="flex-1 bg-paper">
        {firstLearner(session.person.name)}
      </View>
    );
  const page = (
    <View className="min-h-0 flex-1">
      {/* The calendar has it in its own line, where that is wide enough. */}
      <View className={path === '/calendar' ? 'wide:hidden' : ''}>
        <LearnerLine />
      </View>
      <TimerLine />
      <Guard of={path} as="page">
        {path === '/calendar' ? calendar : null}
        <Slot />
      </Guard>
    </View>
  );
  return (
    <FieldHabits.Provider value={habits}>
      <Ways.Provider value={ways}>
        <View className="flex-1 bg-paper">
          <SkipLink words="Skip to the page" onPress={toPage} />
          {session.demo ? strip(session) : null}
          {/* Who hears the page is told where a press has led. */}
          <Text className="sr-only" role="status">
            {name}
          </Text>
          {isSeenAs ? <SeeAsLine /> : null}
          <View className="min-h-0 flex-1 flex-col-reverse wide:flex-row">
            <DoorBar />
            <View role="main" tabIndex={-1} className="min-h-0 min-w-0 flex-1 outline-none">
              {page}
              <KeptLine />
              <UndoBar />
            </View>
            {writing}
          </View>
        </View>
      </Ways.Provider>
    </FieldHabits.Provider>
  );
}

const toPage = () => document.querySelector<HTMLElement>('[role=main]')?.focus();

/** Names the page, and its window by it. */
function usePageName(path: string): string {
  const name = pageName(path, useGlobalSearchParams());
  useEffect(() => {
    document.title = name ? `${name} · Zephyrfield` : 'Zephyrfield';
  }, [name]);
  return name;
}

/**
 * Who signs in after somebody has signed out in this page begins with Today: what the router would come back to is
 * whatever place it has first.
 */
function useTodayAfterSigningInAgain(session: Session | undefined): void {
  const wasIn = useRef(false);
  const isOut = useRef(false);
  const isIn = session ? session.person !== null : undefined;
  useEffect(() => {
    if (isIn === undefined) return;
    if (!isIn) isOut.current = wasIn.current;
    else if (isOut.current) {
      isOut.current = false;
      router.replace('/today');
    }
    if (isIn) wasIn.current = true;
  }, [isIn]);
}

/** A link from a mail or a list says whose the thing is that it leads to: that schedule is looked at from then on. */
function useLearnerOfLink(session: Session | undefined): void {
  const { learner: asked } = useGlobalSearchParams<{ learner?: string }>();
  const chooseLearner = useScreen((s) => s.chooseLearner);
  const isKnown = session?.learners.some((l) => l.id === asked) ?? false;
  useEffect(() => {
    if (!asked || !isKnown) return;
    chooseLearner(asked);
    // A page that begins with all it needs is here before the router is.
    const later = setTimeout(() => router.setParams({ learner: undefined }));
    return () => clearTimeout(later);
  }, [asked, isKnown, chooseLearner]);
}

function Beginning({
  problem,
  retry,
}: {
  problem: { title: string; remedy?: string | undefined } | null;
  retry(): void;
}) {
  if (!problem)
    return (
      <View role="main" className="flex-1 bg-paper">
        <Coming withPlaces />
      </View>
    );
  return (
    <View role="main" className="flex-1 items-center justify-center gap-4 bg-paper p-6">
      <Notice kind="trouble" title={problem.title}>
        {problem.remedy}
      </Notice>
      <Button onPress={retry}>Try again</Button>
    </View>
  );
}
