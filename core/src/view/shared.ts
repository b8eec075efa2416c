import { isWork } from '../item/kind.ts';
import type { OccurrenceView, SharedBy } from '../item/occurrence.ts';
import { firstName } from '../words/text.ts';

/** Facts of a calendar that several learners may have: whose it is, and its name. */
interface Theirs {
  learnerId: string;
  whose?: { name: string; mark: string } | undefined;
  /** Name that it has in its schedule: `School` */
  ownName?: string;
}

/** Up to so many marks stand side by side; more are counted. */
const MARKS = 3;

/**
 * Draws what several learners have in common once, with all their marks: the same lesson, event or day off of one school.
 * Work stays apart, since each finishes their own; so do hours that are kept from who looks, and what is hidden.
 * @param isApart true for what is not to be put together with others
 */
export function sharedOnce(
  occurrences: readonly OccurrenceView[],
  byId: ReadonlyMap<string, Theirs>,
  isApart: (occurrence: OccurrenceView) => boolean,
): OccurrenceView[] {
  const groups = new Map<string, OccurrenceView[]>();
  const order: OccurrenceView[][] = [];
  for (const occurrence of occurrences) {
    const whose = byId.get(occurrence.calendarId)?.whose;
    const isAlone =
      !whose || isWork(occurrence.kind) || occurrence.busy || occurrence.sitting || isApart(occurrence);
    const key = isAlone ? '' : sameness(occurrence);
    const known = key ? groups.get(key) : undefined;
    // Twice in one schedule is two things.
    if (known && !known.some((o) => learnerOf(o) === learnerOf(occurrence))) {
      known.push(occurrence);
      continue;
    }
    const group = [occurrence];
    order.push(group);
    if (key && !known) groups.set(key, group);
  }
  return order.map((group) => (group.length > 1 ? { ...group[0]!, sharedBy: sharedBy(group) } : group[0]!));

  function learnerOf({ calendarId }: OccurrenceView): string | undefined {
    return byId.get(calendarId)?.learnerId;
  }
  function sharedBy(group: readonly OccurrenceView[]): SharedBy {
    const whose = group.map((o) => byId.get(o.calendarId)!.whose!);
    const isFew = whose.length <= MARKS;
    const names = whose.map(({ name }) => firstName(name));
    const name = isFew ? `${names.slice(0, -1).join(', ')} and ${names.at(-1)!}` : `${whose.length} learners`;
    return {
      name,
      mark: isFew ? whose.map(({ mark }) => mark).join('') : String(whose.length),
      calendar: `${name} · ${byId.get(group[0]!.calendarId)!.ownName ?? ''}`,
    };
  }
}

const sameness = ({ title, kind, start, end, place, status }: OccurrenceView): string =>
  JSON.stringify([title, kind, start, end, place, status]);
