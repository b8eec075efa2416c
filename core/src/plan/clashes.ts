import { isWork, type ItemKind } from '../item/kind.ts';
import { weekday } from '../time/civil.ts';
import { weekdayName } from '../words/when.ts';

/** Something one learner has on a day, as far as a new date beside it is concerned. */
export interface OnDay {
  kind: ItemKind;
  title: string;
}

/** What one learner has on one day. */
export interface LearnerDay {
  learnerId: string;
  /** Minutes of work that the day asks for */
  minutes: number;
  items: readonly OnDay[];
}

/** A day as a date for several learners: who is free for it, and what stands against it. */
export interface DayForSeveral {
  day: number;
  /** For each learner, in their order, how much the day holds already: 0 nothing, 1 something, 2 too much */
  full: (0 | 1 | 2)[];
  /** The heavier, the worse a date on it would be */
  weight: number;
  /** Clashes in words: `3 of 8 have a test`; empty for a calm day */
  words: string[];
  isDayOff: boolean;
}

/** From how many minutes of work on an evening is full. */
const FULL = 90;
const SOME = 25;

/**
 * What each of some days would be as a date for several learners at once: tests weigh most, then work due that day, then
 * how full the evening is. Days without school are told apart.
 */
export function daysForSeveral(
  days: readonly { day: number; learners: readonly LearnerDay[] }[],
): DayForSeveral[] {
  return days.map(({ day, learners }) => {
    const of = learners.length;
    const has = (is: (item: OnDay) => boolean) => learners.filter((l) => l.items.some(is));
    const tests = has((i) => i.kind === 'test');
    const due = has((i) => isWork(i.kind) && i.kind !== 'test');
    const away = has((i) => i.kind === 'trip');
    const off = has((i) => i.kind === 'dayOff');
    const full = learners.filter((l) => l.minutes >= FULL);
    const same = sameTitle(due.flatMap((l) => l.items.filter((i) => isWork(i.kind) && i.kind !== 'test')));
    const words = [
      tests.length ? `${share(tests.length, of)} a test` : '',
      away.length ? `${share(away.length, of)} a trip` : '',
      due.length ? `${share(due.length, of)} ${same ? `“${same}” due` : 'work due'}` : '',
      full.length ? `${share(full.length, of)} a full evening` : '',
    ].filter(Boolean);
    return {
      day,
      full: learners.map((l) =>
        l.minutes >= FULL || l.items.some((i) => i.kind === 'test')
          ? 2
          : l.minutes >= SOME || l.items.length
            ? 1
            : 0,
      ),
      weight: tests.length * 4 + away.length * 4 + due.length * 2 + full.length * 2,
      words,
      isDayOff: off.length * 2 > of || weekday(day) > 5,
    };
  });
}

const share = (n: number, of: number) =>
  n === of ? (of === 1 ? 'They have' : `All ${of} have`) : `${n} of ${of} ${n === 1 ? 'has' : 'have'}`;

/** The title that most share, where more than one does. */
function sameTitle(items: readonly OnDay[]): string | null {
  const counts = new Map<string, number>();
  for (const { title } of items) counts.set(title, (counts.get(title) ?? 0) + 1);
  const [best] = [...counts].sort((a, b) => b[1] - a[1]);
  return best && best[1] > 1 && best[1] === items.length ? best[0] : null;
}

/** The calmest of some days, those off left out; the earliest of several; null where there is none. */
export function calmest(days: readonly DayForSeveral[]): DayForSeveral | null {
  return days
    .filter((d) => !d.isDayOff)
    .reduce<DayForSeveral | null>((best, d) => (best === null || d.weight < best.weight ? d : best), null);
}

/**
 * What is said of a date before it is set: `3 of 8 have a test that day; Thursday is calmest.`
 * @param days the days around it, with their weekdays said where they are within a week of it
 */
export function dateWords(chosen: DayForSeveral, days: readonly DayForSeveral[]): string {
  if (chosen.isDayOff) return 'That day is off.';
  const best = calmest(days);
  const hint =
    best && best.weight < chosen.weight
      ? `; ${weekdayName(best.day)} is ${best.weight ? 'calmer' : 'calmest'}`
      : '';
  return chosen.words.length
    ? `${chosen.words.join(', ')} that day${hint}.`
    : `Nobody has anything due that day${hint}.`;
}
