import type { Flag } from '../item/flag.ts';
import { isWork, type ItemKind } from '../item/kind.ts';
import type { When } from '../time/when.ts';
import type { OccurrenceView, SharedBy } from '../item/occurrence.ts';
import { firstName } from '../words/text.ts';

/** Facts of a calendar that several learners may have: whose it is, and its name. */
interface Theirs {
  learnerId: string;
  whose?: { name: string; mark: string } | undefined;
  /** Name that it has in its schedule: `School` */
  ownName?: string;
}

/** Marks of a calendar by which it is known for the same as another. */
interface FlagOf {
  id: string;
  name: string;
  kind: string;
  colour: string;
  flag: Pick<Flag, 'shape' | 'pattern'>;
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
  return order.map((group) =>
    group.length > 1
      ? { ...group[0]!, sharedBy: sharedBy(group.map((o) => byId.get(o.calendarId)!)) }
      : group[0]!,
  );

  function learnerOf({ calendarId }: OccurrenceView): string | undefined {
    return byId.get(calendarId)?.learnerId;
  }
}

function sharedBy(calendars: readonly Theirs[]): SharedBy {
  const whose = calendars.flatMap((c) => c.whose ?? []);
  const isFew = whose.length <= MARKS;
  const names = whose.map(({ name }) => firstName(name));
  const name = isFew ? `${names.slice(0, -1).join(', ')} and ${names.at(-1)!}` : `${whose.length} learners`;
  return {
    name,
    mark: isFew ? whose.map(({ mark }) => mark).join('') : String(whose.length),
    calendar: `${name} · ${calendars[0]!.ownName ?? ''}`,
  };
}

/** A calendar’s place in the line of flags: the calendar, and the ids of all that it stands for. */
export interface FlagPlace<C> {
  calendar: C;
  ids: string[];
}

/** Gives calendars of the same name, kind and flag that several learners have one place, with all their marks. */
export function sharedCalendars<C extends Theirs & FlagOf>(calendars: readonly C[]): FlagPlace<C>[] {
  const groups = new Map<string, C[]>();
  for (const calendar of calendars) {
    const { whose, ownName, kind, colour, flag, id } = calendar;
    const key = whose ? JSON.stringify([ownName, kind, colour, flag.shape, flag.pattern]) : id;
    const known = groups.get(key);
    // Twice in one schedule is two calendars.
    const isOther = known?.every((c) => c.learnerId !== calendar.learnerId) ?? true;
    if (known && isOther) known.push(calendar);
    else groups.set(known ? id : key, [calendar]);
  }
  return [...groups.values()].map((group) => {
    const [first] = group as [C];
    const ids = group.map((c) => c.id);
    if (!group[1]) return { calendar: first, ids };
    const { name, mark, calendar } = sharedBy(group);
    return { calendar: { ...first, name: calendar, whose: { name, mark } }, ids };
  });
}

/** What tells an item of a day from others. */
interface DayItem {
  title: string;
  kind: ItemKind;
  when: When;
}
/** A learner on a day, with their items. */
interface LearnerDay<I extends DayItem> {
  learnerId: string;
  items: I[];
}
/** An item of a day that several learners have in common, with their ids. */
export interface SharedItem<I extends DayItem> {
  item: I;
  learnerIds: string[];
}

/** Parts a day of several learners: what they have in common once, work apart from that, and what each has besides. */
export function partShared<I extends DayItem, L extends LearnerDay<I>>(
  learners: readonly (L & LearnerDay<I>)[],
): { shared: SharedItem<I>[]; own: L[] } {
  const groups = new Map<string, SharedItem<I>>();
  const keyOf = ({ title, kind, when }: DayItem) => JSON.stringify([title, kind, when]);
  for (const { learnerId, items } of learners)
    for (const item of items) {
      if (isWork(item.kind)) continue;
      const known = groups.get(keyOf(item));
      if (!known) groups.set(keyOf(item), { item, learnerIds: [learnerId] });
      else if (!known.learnerIds.includes(learnerId)) known.learnerIds.push(learnerId);
    }
  const isShared = (item: DayItem) => !isWork(item.kind) && groups.get(keyOf(item))!.learnerIds.length > 1;
  return {
    shared: [...groups.values()].filter((g) => g.learnerIds.length > 1),
    own: learners.map((l) => ({ ...l, items: l.items.filter((item) => !isShared(item)) })),
  };
}

const sameness = ({ title, kind, start, end, place, status }: OccurrenceView): string =>
  JSON.stringify([title, kind, start, end, place, status]);
