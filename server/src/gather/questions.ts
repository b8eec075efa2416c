import type { Questions } from '@zephyrfield/core/api/schemas';
import { canBeJoined, maybeSame, type Candidate } from '@zephyrfield/core/gather/duplicates';
import { likenessOf } from '@zephyrfield/core/gather/rules';
import { DAY } from '@zephyrfield/core/time/civil';
import type { When } from '@zephyrfield/core/time/when';
import { UTC, ianaZone, type Zone } from '@zephyrfield/core/time/zone';
import type { CalendarStore } from '../calendars/store.ts';
import type { Clock } from '../clock.ts';
import { ProblemError, changedMeanwhile } from '../http/problem.ts';
import { settleSame } from './duplicates.ts';
import type { GatherStore } from './store.ts';

interface QuestionDeps {
  store: GatherStore;
  calendars: CalendarStore;
  clock: Clock;
  changed(learnerId: string): void;
}

/** What is asked about lies in this span of time around now, and is so many at most. */
const SPAN = { before: 14 * DAY, after: 400 * DAY };
const MOST_LOOKED_AT = 20_000;
const MOST_ASKED = 40;

/** What cannot be known from feeds alone, so that a person is asked: what is the same, and what became of what. */
export function questionService({ store, calendars, clock, changed }: QuestionDeps) {
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

  /** Pairs that may be the same thing, the soonest first. */
  function maybe(learnerId: string, zone: Zone): Questions['maybeSame'] {
    const now = clock.now();
    const candidates = store.duplicates.toCome(
      learnerId,
      now - SPAN.before,
      now + SPAN.after,
      MOST_LOOKED_AT,
    );
    const verdicts = store.duplicates.verdicts(candidates.map((c) => c.id));
    return maybeSame(candidates, verdicts, zone)
      .slice(0, MOST_ASKED)
      .map(([a, b]) => ({ a: shown(a), b: shown(b) }));
  }

  /** What left its feed with something added to it, each with the entries it may be: alike ones first. */
  function unmatched(learnerId: string): Questions['unmatched'] {
    return store.unmatched
      .lost(learnerId)
      .slice(0, MOST_ASKED)
      .map(({ id, sourceId, calendarId, title }) => {
        const like = likenessOf(title);
        const offered = store.unmatched
          .offered(sourceId)
          .map((o) => ({ itemId: o.id, title: o.title, when: JSON.parse(o.when) as When }));
        const isLike = (o: { title: string }) => likenessOf(o.title) === like;
        return {
          itemId: id,
          title,
          calendarId,
          offered: [...offered.filter(isLike), ...offered.filter((o) => !isLike(o))],
        };
      });
  }

  /** What was added to dates that an item has no longer goes to its dates nearest to them. */
  function followDates(itemId: string): void {
    const there = store.occurrencesOf(itemId).map((o) => o.recurrenceId);
    const taken = store.layers.datesOf(itemId);
    const free = new Set(there.filter((d) => !taken.includes(d)));
    for (const recurrenceId of taken) {
      if (there.includes(recurrenceId)) continue;
      const to = nearest(recurrenceId, free);
      if (to === undefined) continue;
      free.delete(to);
      store.layers.move({ itemId, recurrenceId }, { itemId, recurrenceId: to });
    }
  }

  return {
    questions: (learnerId: string, zone: string): Questions => ({
      maybeSame: maybe(learnerId, ianaZone(zone) ?? UTC),
      unmatched: unmatched(learnerId),
    }),

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
        store.duplicates.setVerdict(a, b, same);
        // What was taken for the same stays so through small changes; what is said anew is looked at anew.
        for (const [id, of] of [
          [a, b],
          [b, a],
        ] as const)
          if (store.duplicates.head(id)?.sameAs === of) store.duplicates.setSame(id, null);
        settleSame(store.duplicates, learnerId, [a, b], zoneOf(a));
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

/** The date nearest to one, by its name; all names of an item's dates are of one kind. */
function nearest(recurrenceId: string, free: ReadonlySet<string>): string | undefined {
  const at = (name: string) => Date.parse(name) || 0;
  return [...free].reduce<string | undefined>(
    (best, each) =>
      best === undefined || Math.abs(at(each) - at(recurrenceId)) < Math.abs(at(best) - at(recurrenceId))
        ? each
        : best,
    undefined,
  );
}
