import type { Questions } from '@zephyrfield/core/api/schemas';
import { canBeJoined, maybeSame, type Candidate } from '@zephyrfield/core/gather/duplicates';
import { likenessOf } from '@zephyrfield/core/gather/rules';
import { DAY } from '@zephyrfield/core/time/civil';
import type { When } from '@zephyrfield/core/time/when';
import { UTC, ianaZone, type Zone } from '@zephyrfield/core/time/zone';
import type { CalendarStore } from '../calendars/store.ts';
import type { Sights } from '../people/sights.ts';
import type { Clock } from '../clock.ts';
import { ProblemError, changedMeanwhile } from '../http/problem.ts';
import { settleSame } from './duplicates.ts';
import type { GatherStore } from './store.ts';

interface QuestionDeps {
  store: GatherStore;
  calendars: CalendarStore;
  sights: Sights;
  clock: Clock;
  changed(learnerId: string): void;
}

/** What is asked about stands once, in this span of time around now, and is among the so many that come first. */
const SPAN = { before: 7 * DAY, after: 90 * DAY };
const MOST_LOOKED_AT = 1_000;
const MOST_ASKED = 40;

/** Gives what cannot be known from feeds alone, so that a person is asked: what is the same, and what became of what. */
export function questionService({ store, calendars, sights, clock, changed }: QuestionDeps) {
  const zoneOf = (itemId: string): Zone => {
    const { calendarId } = store.duplicates.head(itemId)!;
    return ianaZone(calendars.byId(calendarId)?.zone ?? '') ?? UTC;
  };
  const shown = ({ id, title, when }: Candidate) => ({
    itemId: id,
    title,
    calendarId: store.duplicates.head(id)!.calendarId,
    when,
  });

  /** Finds pairs that may be the same thing, the soonest first. */
  function maybe(learnerId: string, zone: Zone, isSeen: (itemId: string) => boolean): Questions['maybeSame'] {
    const now = clock.now();
    const candidates = store.duplicates
      .standingOnce(learnerId, now - SPAN.before, now + SPAN.after, MOST_LOOKED_AT)
      .filter(({ id }) => isSeen(id));
    const verdicts = store.duplicates.verdicts(candidates.map((c) => c.id));
    return maybeSame(candidates, verdicts, zone)
      .slice(0, MOST_ASKED)
      .map(([a, b]) => ({ a: shown(a), b: shown(b) }));
  }

  /** Finds what left its feed with something added to it, each with the entries it may be: alike ones first. */
  function unmatched(learnerId: string, isSeen: (itemId: string) => boolean): Questions['unmatched'] {
    const lost = store.unmatched
      .lost(learnerId)
      .filter(({ id }) => isSeen(id))
      .slice(0, MOST_ASKED);
    const offeredBy = new Map(
      [...new Set(lost.map((l) => l.sourceId))].map((id) => [
        id,
        store.unmatched
          .offered(id)
          .filter((o) => isSeen(o.id))
          .map((o) => ({ itemId: o.id, title: o.title, when: JSON.parse(o.when) as When })),
      ]),
    );
    return lost.map(({ id, sourceId, calendarId, title }) => {
      const like = likenessOf(title);
      const offered = offeredBy.get(sourceId)!;
      const isLike = (o: { title: string }) => likenessOf(o.title) === like;
      return {
        itemId: id,
        title,
        calendarId,
        offered: [...offered.filter(isLike), ...offered.filter((o) => !isLike(o))],
      };
    });
  }

  /** Finds what may be due or not, the soonest first: one for all of a source that are like it. */
  function doubtful(learnerId: string, isSeen: (itemId: string) => boolean): Questions['doubtful'] {
    const now = clock.now();
    const found = new Map<string, Questions['doubtful'][number]>();
    for (const row of store.doubtful.since(learnerId, now - SPAN.before, MOST_LOOKED_AT)) {
      if (!isSeen(row.id)) continue;
      const key = JSON.stringify([row.sourceId, row.section, likenessOf(row.title)]);
      const known = found.get(key);
      if (known) known.count += 1;
      else {
        const { id: itemId, title, calendarId, kind } = row;
        found.set(key, { itemId, title, calendarId, kind, count: 1, when: JSON.parse(row.when) as When });
      }
    }
    return [...found.values()].slice(0, MOST_ASKED);
  }

  /** Gives what was added to dates that an item has no longer goes to its dates nearest to them. */
  function followDates(itemId: string): void {
    const there = store.occurrencesOf(itemId).map((o) => o.recurrenceId);
    const isThere = new Set(there);
    const taken = new Set(store.layers.datesOf(itemId));
    const homeless = [...taken].filter((d) => !isThere.has(d));
    const free = there.filter((d) => !taken.has(d));
    store.layers.moveAll(
      nearestPairs(homeless, free).map(([from, to]) => ({
        from: { itemId, recurrenceId: from },
        to: { itemId, recurrenceId: to },
      })),
    );
  }

  return {
    /** Asks somebody about what they may see. */
    questions(learnerId: string, zone: string, personId: string): Questions {
      const kept = sights(personId, learnerId);
      const isSeen = (itemId: string) => !kept.size || !kept.has(store.duplicates.head(itemId)!.calendarId);
      return {
        maybeSame: maybe(learnerId, ianaZone(zone) ?? UTC, isSeen),
        unmatched: unmatched(learnerId, isSeen),
        doubtful: doubtful(learnerId, isSeen),
      };
    },

    /**
     * Keeps whether two items are the same thing; null: as they are found.
     * @throws ProblemError 422 where one repeats and the other does not, or both are of one's own making
     */
    setDuplicate(learnerId: string, a: string, b: string, same: boolean | null): void {
      store.transaction(() => {
        const [x, y] = [a, b].map((id) => store.duplicates.candidates([id])[0]);
        if (same && !(x && y && canBeJoined(x, y)))
          throw new ProblemError(422, 'invalid', 'These two cannot be shown as one.', {
            remedy:
              x && y && x.own && y.own
                ? 'Both are of your own making. Delete one of them.'
                : 'One repeats and the other does not, or one is gone.',
          });
        // Taken back, each has again what had gone along.
        if (same === null) store.duplicates.giveBack(store.duplicates.carried(a, b));
        store.duplicates.setVerdict(a, b, same);
        // What was taken for the same stays so through small changes; what is said anew is looked at anew.
        for (const [id, of] of [
          [a, b],
          [b, a],
        ] as const)
          if (store.duplicates.head(id)?.sameAs === of) store.duplicates.setSame(id, null);
        const carried = settleSame(store.duplicates, learnerId, [a, b], zoneOf(a));
        if (same) store.duplicates.setCarried(a, b, carried);
      });
      changed(learnerId);
    },

    /**
     * Says which entry of its feed a lost item is: it takes that one's place, with all that was added to it. Null: it
     * is none of them. Said once more of the same two, it is taken back.
     * @throws ProblemError 409 where the one is not gone any more, or the other is
     */
    match(learnerId: string, id: string, to: string | null): void {
      store.transaction(() => {
        if (to === null) store.unmatched.setUnmatched(id, false);
        else {
          const [lost, found] = [store.unmatched.head(id), store.unmatched.head(to)];
          if (lost.sourceId !== found.sourceId || (lost.goneAt === null) === (found.goneAt === null))
            throw changedMeanwhile();
          store.unmatched.swap(id, to);
          // What is gone now was lost before, or is nothing anybody has added to.
          const [live, gone] = lost.goneAt === null ? [to, id] : [id, to];
          followDates(live);
          store.unmatched.setUnmatched(live, false);
          store.unmatched.setUnmatched(gone, store.layers.datesOf(gone).length > 0);
          settleSame(store.duplicates, learnerId, [id, to], zoneOf(live));
        }
      });
      changed(learnerId);
    },
  };
}
export type QuestionService = ReturnType<typeof questionService>;

/**
 * Pairs dates with free ones near to them, each once, both in their order: names of an item's dates are of one kind.
 * Both are gone through once.
 */
function nearestPairs(dates: readonly string[], free: readonly string[]): [from: string, to: string][] {
  const at = (name: string) => Date.parse(name) || 0;
  const inOrder = (names: readonly string[]) => [...names].sort((a, b) => at(a) - at(b));
  const [from, to] = [inOrder(dates), inOrder(free)];
  const pairs: [string, string][] = [];
  let next = 0;
  for (const [i, name] of from.entries()) {
    // As far on as is nearer still, leaving one for each that comes after.
    const last = to.length - (from.length - i);
    const off = (place: number) => Math.abs(at(to[place]!) - at(name));
    while (next < last && off(next + 1) < off(next)) next++;
    if (next >= to.length) break;
    pairs.push([name, to[next]!]);
    next++;
  }
  return pairs;
}
