import type { OfferView, Publication } from '@zephyrfield/core/api/publish';
import type { CalendarView, Learner } from '@zephyrfield/core/api/schemas';
import { may } from '@zephyrfield/core/item/access';
import { ownOf, type OwnItem } from '@zephyrfield/core/item/own';
import { contentFrom } from '@zephyrfield/core/ical/content';
import type { HandInWay, ItemKind } from '@zephyrfield/core/item/kind';
import { DAY } from '@zephyrfield/core/time/civil';
import type { BriefStore } from '../briefs/store.ts';
import type { CalendarRow, CalendarStore } from '../calendars/store.ts';
import { calendarView } from '../calendars/views.ts';
import type { Clock } from '../clock.ts';
import { keyedId, orderedId } from '../db/ids.ts';
import type { GatherService } from '../gather/service.ts';
import type { RemovalService } from '../gather/removal.ts';
import type { GatherStore } from '../gather/store.ts';
import { ProblemError, notAllowed, notFound, tooMany } from '../http/problem.ts';
import type { OwnService } from '../items/own-service.ts';
import type { ItemStore } from '../items/store.ts';
import { MOST } from '../limits.ts';
import type { calendar } from '../db/schema.ts';
import { standingOf } from '../people/access.ts';
import type { Sights } from '../people/sights.ts';
import type { PeopleStore } from '../people/store.ts';
import type { Spreading } from './spread.ts';
import type { OfferRow, PublishStore } from './store.ts';

export interface PublishDeps {
  store: PublishStore;
  calendars: CalendarStore;
  gathered: GatherStore;
  items: ItemStore;
  own: OwnService;
  briefs: BriefStore;
  people: Pick<PeopleStore, 'learnersOf' | 'person'>;
  removal: Pick<RemovalService, 'remove'>;
  refuseTooMany: GatherService['refuseTooMany'];
  spread: Spreading;
  sights: Sights;
  clock: Clock;
  changed(learnerId: string): void;
  /** Called after something of a schedule was opened */
  opened(learnerId: string): void;
  /** Tells the people of a schedule that something is offered to it */
  offered(offer: {
    id: string;
    learnerId: string;
    by: { personId: string; name: string };
    calendar: string;
  }): void;
}

/** How far ahead, and how many dates of it, are shown of a calendar before it is taken in. */
const AHEAD = 60 * DAY;
const SHOWN = 3;
const LONGEST_SHOWN = 80;

/** A calendar that is to be made, and what goes into it: where each came from, and which date was which. */
export interface CarriedTo {
  calendar: Omit<typeof calendar.$inferInsert, 'id' | 'learnerId' | 'position' | 'createdAt' | 'madeBy'> & {
    key?: string | undefined;
  };
  items: readonly { from: string; item: OwnItem; dates: readonly { was: string; is: string }[] }[];
}

interface By {
  personId: string;
}

/** Calendars that somebody keeps for others: offering them, taking them in, carrying them to another term. */
export function publishService(deps: PublishDeps) {
  const { store, calendars, gathered, items, own, briefs, people, removal, spread, clock, changed } = deps;

  const learnerOf = (personId: string, id: string) => people.learnersOf(personId).find((l) => l.id === id);

  /** A calendar that somebody may offer to others. @throws ProblemError */
  function offerable(id: string, { personId }: By): CalendarRow {
    const calendar = calendars.byId(id);
    const learner = calendar && learnerOf(personId, calendar.learnerId);
    if (!calendar || !learner) throw notFound('calendar');
    if (!may(standingOf(personId, learner), 'share', calendar))
      throw notAllowed('offer calendars of this schedule to others');
    if (!calendars.handMade(learner.id).has(id))
      throw new ProblemError(409, 'gathered', 'Only a calendar of your own can be offered to others.', {
        remedy: 'Whoever needs this one can follow its link.',
      });
    return calendar;
  }

  function publication(calendarId: string, learners: readonly Learner[]): Publication {
    const seen = new Map(learners.map((l) => [l.id, l.name]));
    const all = store.offersOf(calendarId);
    return {
      calendarId,
      to: all
        .filter((o) => seen.has(o.learnerId))
        .map(({ learnerId, state }) => ({ learnerId, state, name: seen.get(learnerId)! })),
      unseen: all.filter((o) => !seen.has(o.learnerId) && o.state === 'taken').length,
    };
  }

  /** Takes an offer back: what was ticked off in it stays. */
  function end({ id, calendarId, learnerId, state }: OfferRow): void {
    const follower = store.followersOf(calendarId).find((f) => f.learnerId === learnerId);
    if (state === 'taken' && follower) removal.remove(follower.id);
    store.dropOffer(id);
    changed(learnerId);
  }

  /** Tells whether whoever made an offer may still make it. */
  function mayStillOffer({ calendarId, offeredBy }: OfferRow): boolean {
    const calendar = calendars.byId(calendarId);
    const learner = calendar && learnerOf(offeredBy, calendar.learnerId);
    return Boolean(learner && may(standingOf(offeredBy, learner), 'share', calendar));
  }

  function viewOf({ id, by, calendarId, offeredBy, createdAt }: OfferRow & { by: string }): OfferView {
    const calendar = calendars.byId(calendarId)!;
    const now = clock.now();
    const next = items
      .between(calendar.learnerId, offeredBy, now, now + AHEAD)
      .filter(({ occurrence: o }) => o.calendarId === calendarId && o.toMs >= now)
      .slice(0, SHOWN);
    const { name, kind, colour, flag } = calendar;
    return {
      ...{ id, by, name, kind, colour, flag },
      count: calendars.ownItems(calendarId),
      next: next.map(({ occurrence: o }) => ({ title: o.title, when: o.due ?? o.start })),
      at: new Date(createdAt).toISOString(),
    };
  }

  /** The source by which a schedule follows a calendar: taken up again where it was followed before. */
  function followedBy(learnerId: string, calendar: CalendarRow, by: string, reminders: boolean): string {
    const now = clock.now();
    const addressDigest = `published ${calendar.id}`;
    const before = gathered.byDigest(learnerId, addressDigest);
    const { name, kind, category, colour, flag, zone } = calendar;
    const alarms = reminders ? ('use' as const) : ('ignore' as const);
    const kept = before && calendars.ofSource(before.id)[0];
    const target =
      kept ??
      calendars.add({
        ...{ name, kind, category, colour, flag, zone, alarms, learnerId },
        id: orderedId(now),
        position: calendars.nextPosition(learnerId),
        createdAt: now,
      });
    if (kept) calendars.change(kept.id, { alarms });
    const row = {
      kind: 'published' as const,
      publishedFrom: calendar.id,
      calendarId: target.id,
      addressSealed: '',
      addressMasked: by.slice(0, LONGEST_SHOWN),
      addressDigest,
      bodyDigest: null,
      lastGoodAt: null,
      nextCheckAt: null,
      removedAt: null,
    };
    if (before) gathered.change(before.id, row);
    else gathered.add({ ...row, id: orderedId(now), learnerId, createdAt: now });
    return target.id;
  }

  return {
    publications(learnerId: string, personId: string): Publication[] {
      const learners = people.learnersOf(personId);
      return calendars
        .ofLearner(learnerId)
        .filter(({ id }) => !deps.sights(personId, learnerId).has(id))
        .map(({ id }) => publication(id, learners))
        .filter((each) => each.to.length || each.unseen);
    },

    /**
     * Offers a calendar to these schedules and to no others: it is taken back from those that are not named. Where none
     * is named, it is taken back from all; else whoever one does not see any more goes on following it.
     */
    publish(id: string, learnerIds: readonly string[], by: By): Publication {
      const calendar = offerable(id, by);
      const learners = people.learnersOf(by.personId);
      const wanted = new Set(learnerIds);
      wanted.delete(calendar.learnerId);
      const standing = store.offersOf(id);
      const isSeen = (learnerId: string) => learners.some((l) => l.id === learnerId);
      const ended = standing.filter(
        (o) => !wanted.has(o.learnerId) && (isSeen(o.learnerId) || wanted.size === 0),
      );
      const known = new Map(standing.map((o) => [o.learnerId, o]));
      const fresh = [...wanted].filter((each) => (known.get(each)?.state ?? 'declined') === 'declined');
      if (standing.length - ended.length + fresh.length > MOST.offers)
        throw tooMany(
          `A calendar can be offered to ${MOST.offers} schedules.`,
          'Take it back from some first.',
        );
      store.transaction(() => {
        for (const each of ended) end(each);
        for (const learnerId of fresh)
          store.addOffer({
            id: orderedId(clock.now()),
            calendarId: id,
            learnerId,
            offeredBy: by.personId,
            state: 'open',
            createdAt: clock.now(),
          });
      });
      for (const each of store.offersOf(id).filter((o) => fresh.includes(o.learnerId))) {
        const name = people.person(by.personId)?.name ?? '';
        deps.offered({
          id: each.id,
          learnerId: each.learnerId,
          by: { personId: by.personId, name },
          calendar: calendar.name,
        });
        changed(each.learnerId);
      }
      changed(calendar.learnerId);
      return publication(id, learners);
    },

    offers: (learnerId: string): OfferView[] => store.openFor(learnerId).filter(mayStillOffer).map(viewOf),

    /** Takes an offered calendar in, or says that it is not wanted; gives the calendar it has become. */
    async answer(
      id: string,
      { take, reminders }: { take: boolean; reminders: boolean },
    ): Promise<string | null> {
      const found = store.offer(id);
      if (!found) throw notFound('offer');
      const { learnerId, calendarId: from } = found;
      const calendarId = store.transaction(() => {
        const offered = store.offer(id);
        // Answered twice, from two pages or by two people, it is answered once.
        if (!offered || offered.state === 'taken') return null;
        if (take && !mayStillOffer(offered)) throw notFound('offer');
        store.setOffer(id, take ? 'taken' : 'declined');
        if (!take) return null;
        deps.refuseTooMany(learnerId);
        const by = people.person(offered.offeredBy)?.name ?? '';
        return followedBy(learnerId, calendars.byId(from)!, by, reminders);
      });
      if (calendarId !== null) await spread.now(from);
      changed(learnerId);
      changed(calendars.byId(from)!.learnerId);
      return calendarId;
    },

    open(itemId: string, personId: string): void {
      store.open(itemId, personId, clock.now());
      const learnerId = items.item(itemId)?.item.learnerId;
      if (learnerId) deps.opened(learnerId);
    },

    ownItems: (calendarId: string) =>
      store.ownOf(calendarId).map(({ id, kind, handIn, content, brief, files }) => ({
        id,
        item: ownOf(contentFrom(content), { kind: kind as ItemKind, handIn: handIn as HandInWay }),
        brief: brief === 1,
        files,
      })),

    /**
     * Makes a calendar of items of another one, at other dates; briefs and files come along. Sent twice under one key,
     * it is one; cut off before its items are there, it is finished by the second.
     */
    async carry(
      from: string,
      { calendar: { key, ...wanted }, items: list }: CarriedTo,
      { personId }: By,
    ): Promise<CalendarView> {
      const { learnerId } = calendars.byId(from)!;
      const id = key ? keyedId(learnerId, key) : orderedId(clock.now());
      const made = calendars.byId(id);
      if (made && calendars.ownItems(id)) return calendarView(made, true);
      if (!made && calendars.ofLearner(learnerId).length >= MOST.calendars)
        throw tooMany(`There are ${MOST.calendars} calendars, which is the most.`, 'Remove one first.');
      const now = clock.now();
      const row = made ?? {
        ...wanted,
        id,
        learnerId,
        madeBy: personId,
        position: calendars.nextPosition(learnerId),
        createdAt: now,
      };
      if (!made) calendars.add(row);
      const writes = list.map(({ item }) => ({ id: null, calendarId: id, item, version: 0 }));
      const written = await own.write(learnerId, writes, personId).catch((error: unknown) => {
        // Nothing of it is to stand where its items do not.
        if (!made) calendars.remove(id);
        throw error;
      });
      store.transaction(() =>
        list.forEach((each, n) => {
          const to = written[n]!.id;
          briefs.copyShared(each.from, to);
          for (const { was, is } of each.dates) briefs.copyDate(each.from, was, to, is);
        }),
      );
      changed(learnerId);
      return calendarView(calendars.byId(id)!, true);
    },
  };
}
export type PublishService = ReturnType<typeof publishService>;
