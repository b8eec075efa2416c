import { late } from '@/data/late';
import { Link, Slot, router, useGlobalSearchParams, usePathname } from '@/router';
import Anchor from 'lucide-react-native/icons/anchor';
import CalendarDays from 'lucide-react-native/icons/calendar-days';
import Megaphone from 'lucide-react-native/icons/megaphone';
import Replace from 'lucide-react-native/icons/replace';
import StickyNote from 'lucide-react-native/icons/sticky-note';
import Sliders from 'lucide-react-native/icons/sliders-horizontal';
import Rows from 'lucide-react-native/icons/rows-3';
import Stairs from 'lucide-react-native/icons/chart-no-axes-column-increasing';
import Sunset from 'lucide-react-native/icons/sunset';
import ListChecks from 'lucide-react-native/icons/list-checks';
import Wind from 'lucide-react-native/icons/wind';
import { useEffect, useRef, type ReactNode } from 'react';
import { Pressable, View } from 'react-native';
import type { Session } from '@zephyrfield/core/api/schemas';
import { firstName } from '@zephyrfield/core/words/text';
import { problemOf } from '@/data/client';
import { useLearner } from '@/data/learner';
import { useLiveUpdates } from '@/data/live';
import { useSession } from '@/data/queries';
import { useScreen } from '@/data/screen';
import { useSeeAs } from '@/data/see-as';
import { useTheme } from '@/data/theme';
import { Button, type IconType } from '@/ui/button';
import { choiceBox, choiceWords } from '@/ui/choices';
import { Coming } from '@/ui/coming';
import { Guard } from '@/ui/guard';
import { lazyComponent } from '@/ui/lazy';
import { Notice } from '@/ui/notice';
import { Text } from '@/ui/text';
import { FieldHabits } from '@/ui/field-habits';
import { useChoiceKeys } from '@/ui/use-choice-keys';
import { KeptLine } from './kept-line';
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

const PLACES: {
  href:
    | '/today'
    | '/calendar'
    | '/todo'
    | '/plan'
    | '/crew'
    | '/table'
    | '/notes'
    | '/notices'
    | '/changes'
    | '/gather'
    | '/settings';
  words: string;
  icon: IconType;
  onWide?: boolean;
  /** Only for who looks after several learners */
  forSeveral?: boolean;
}[] = [
  { href: '/today', words: 'Today', icon: Sunset },
  { href: '/calendar', words: 'Calendar', icon: CalendarDays },
  { href: '/todo', words: 'To-do', icon: ListChecks },
  { href: '/plan', words: 'Plan', icon: Stairs },
  { href: '/crew', words: 'Crew', icon: Anchor },
  { href: '/table', words: 'Table', icon: Rows, onWide: true, forSeveral: true },
  { href: '/notes', words: 'Notes', icon: StickyNote, onWide: true },
  { href: '/notices', words: 'Notices', icon: Megaphone, onWide: true },
  { href: '/changes', words: 'Changes', icon: Replace, onWide: true },
  { href: '/gather', words: 'Gather', icon: Wind, onWide: true },
  { href: '/settings', words: 'Settings', icon: Sliders, onWide: true },
];

const PLACE =
  'min-h-[56px] flex-1 items-center justify-center gap-0.5 rounded-lg hover:bg-lagoon-wash wide:flex-none wide:py-2';

/** What stands around every page: who is signed in, the places, and whose schedule it is. */
export function Frame({ strip, signIn, firstLearner, calendar, writing, enterDemo }: FrameProps) {
  const path = usePathname();
  const { data: session, error, refetch } = useSession();
  useLiveUpdates(useLearner()?.learner.id);
  useLearnerOfLink(session);
  useTodayAfterSigningInAgain(session);
  useTheme();
  useChoiceKeys();
  useUndoKeys(useLearner()?.learner);
  const habits = useHabits();
  const isSeenAs = useSeeAs((s) => s.as !== null);
  useEffect(() => {
    const place = PLACES.find(({ href }) => path.startsWith(href));
    document.title = place ? `${place.words} · Zephyrfield` : 'Zephyrfield';
  }, [path]);
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
      <LearnerLine />
      <TimerLine />
      <Guard of={path} as="page">
        {path === '/calendar' ? calendar : null}
        <Slot />
      </Guard>
    </View>
  );
  return (
    <FieldHabits.Provider value={habits}>
      <View className="flex-1 bg-paper">
        {session.demo ? strip(session) : null}
        {isSeenAs ? <SeeAsLine /> : null}
        <View className="min-h-0 flex-1 flex-col-reverse wide:flex-row">
          <Places />
          <View role="main" className="min-h-0 min-w-0 flex-1">
            {page}
            <KeptLine />
            <UndoBar />
          </View>
          {writing}
        </View>
      </View>
    </FieldHabits.Provider>
  );
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

/**
 * At the foot of a phone, as a rail on a wide screen; the style sheet decides, so that it is right before any
 * script is there.
 */
function Places() {
  const path = usePathname();
  const isSeenAs = useSeeAs((s) => s.as !== null);
  const isForSeveral = (useSession().data?.learners.filter((l) => !l.isSelf).length ?? 0) > 1;
  return (
    <View
      role="navigation"
      aria-label="Places"
      className="flex-row border-t border-line bg-sheet wide:w-[84px] wide:flex-col wide:gap-1 wide:border-r wide:border-t-0 wide:px-1 wide:pt-3"
    >
      {PLACES.filter(
        ({ href, forSeveral }) => (!isSeenAs || SEEN_AS.includes(href)) && (!forSeveral || isForSeveral),
      ).map(({ href, words, icon: Icon, onWide }) => {
        const here = path === href || path.startsWith(`${href}/`);
        return (
          <Link key={href} href={href} asChild>
            <Pressable
              role="link"
              aria-current={here ? 'page' : undefined}
              className={`${onWide ? 'hidden wide:flex' : ''} ${PLACE}`}
            >
              <Icon
                size={24}
                color={here ? 'var(--lagoon)' : 'var(--ink2)'}
                strokeWidth={here ? 2.4 : 1.8}
                aria-hidden
              />
              <Text
                kind="small"
                numberOfLines={1}
                className={`!text-[min(0.8125rem,3.5vw)] ${here ? 'font-bold text-lagoon' : ''}`}
              >
                {words}
              </Text>
            </Pressable>
          </Link>
        );
      })}
    </View>
  );
}

/** Place where all learners can be looked at together; and, with the plan, what is seen with somebody else’s eyes. */
const TOGETHER: readonly string[] = ['/today', '/calendar', '/todo'];
/** What is one’s own, whoever is looked at. */
const OF_ONESELF: readonly string[] = ['/for-others', '/table', '/notes', '/open-times'];
const SEEN_AS: readonly string[] = [...TOGETHER, '/plan'];

/** Whose schedule is looked at, where there is a choice. */
function LearnerLine() {
  const { chooseLearner, chooseEverybody } = useScreen.getState();
  const path = usePathname();
  const everybody = useScreen((s) => s.everybody) && TOGETHER.includes(path);
  const seen = useLearner();
  if (!seen || seen.learners.length < 2 || OF_ONESELF.includes(path)) return null;
  return (
    <View role="radiogroup" aria-label="Whose schedule" className="flex-row flex-wrap gap-x-1 px-3 pt-2">
      {TOGETHER.includes(path) ? (
        <Pressable
          role="radio"
          aria-checked={everybody}
          tabIndex={everybody ? 0 : -1}
          onPress={chooseEverybody}
          className={choiceBox(everybody)}
        >
          <Text className={choiceWords(everybody)}>Everybody</Text>
        </Pressable>
      ) : null}
      {seen.learners.map((each) => {
        const here = !everybody && each.id === seen.learner.id;
        return (
          <Pressable
            key={each.id}
            role="radio"
            aria-checked={here}
            tabIndex={here ? 0 : -1}
            onPress={() => chooseLearner(each.id)}
            className={choiceBox(here)}
          >
            <Text className={choiceWords(here)}>{firstName(each.name)}</Text>
          </Pressable>
        );
      })}
    </View>
  );
}
