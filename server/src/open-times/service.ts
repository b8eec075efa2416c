import type { NewOpenTimes, OpenSlotView, OpenTimesView, Taken } from '@zephyrfield/core/api/open-times';
import { takesTime } from '@zephyrfield/core/item/busy';
import { MINUTE, parseDate } from '@zephyrfield/core/time/civil';
import { freeSlots, slotsOf } from '@zephyrfield/core/time/slots';
import { instantOf } from '@zephyrfield/core/time/when';
import { UTC, ianaZone } from '@zephyrfield/core/time/zone';
import { shortWhen } from '@zephyrfield/core/words/when';
import { firstName } from '@zephyrfield/core/words/text';
import type { Clock } from '../clock.ts';
import { keyedId, orderedId } from '../db/ids.ts';
import { ProblemError, notAllowed, notFound, tooMany } from '../http/problem.ts';
import type { ItemStore } from '../items/store.ts';
import { MOST } from '../limits.ts';
import type { Attempts } from '../people/attempts.ts';
import type { PeopleStore } from '../people/store.ts';
import type { MeetingWriter } from './meetings.ts';
import type { BookingRow, OpenTimeStore, SlotWhole } from './store.ts';

export interface OpenTimeDeps {
  store: OpenTimeStore;
  meetings: MeetingWriter;
  people: Pick<PeopleStore, 'learnersOf' | 'person'>;
  items: ItemStore;
  attempts: Attempts;
  clock: Clock;
  changed(learnerId: string): void;
  /** Tells people, by the ways each has chosen */
  tell(
    personIds: readonly string[],
    learnerId: string,
    told: { id: string; title: string; line: string; leads: string; itemId?: string | null },
  ): void;
  /** Tells who may take times for a learner */
  mayTake(learnerId: string): string[];
  learnerName(learnerId: string): string;
}

/** Number of times that are shown of what is offered to a learner, and so many nearest ones to who was too late. */
const SHOWN = 300;
const NEAREST = 3;

/** What became of a time that is offered. */
type Turn = 'taken' | 'givenBack' | { to: SlotWhole };

const iso = (ms: number) => new Date(ms).toISOString();

/** Short meetings that somebody offers, one of which a learner takes and may give back. */
export function openTimeService(deps: OpenTimeDeps) {
  const { store, meetings, people, items, attempts, clock, changed, tell, mayTake, learnerName } = deps;

  const ownOf = (personId: string) => people.learnersOf(personId).find((l) => l.isSelf);

  /** Gives what takes time in a schedule, as somebody sees it. */
  const busyIn = (learnerId: string, personId: string, from: number, to: number) =>
    items
      .between(learnerId, personId, from, to)
      .filter(({ occurrence: o }) => takesTime(o) && o.start.kind !== 'date')
      .map(({ occurrence: o }) => ({
        from: o.fromMs,
        to: Math.max(o.toMs, o.fromMs + MINUTE),
        itemId: o.itemId,
      }));

  /**
   * Finds the times over which whoever offers them has something else by now: nobody is shown them, or can take them,
   * until that is over or moved.
   */
  function withheldOf(slots: readonly SlotWhole[]): ReadonlySet<string> {
    const [from, to] = slots.reduce(
      ([first, last], s) => [Math.min(first, s.startAt), Math.max(last, s.endAt)],
      [Infinity, -Infinity],
    );
    const busyOf = new Map<string, ReturnType<typeof busyIn>>();
    return new Set(
      slots.flatMap(({ id, itemId, ownLearnerId, personId, startAt, endAt }) => {
        const busy = busyOf.get(ownLearnerId) ?? busyIn(ownLearnerId, personId, from, to);
        busyOf.set(ownLearnerId, busy);
        return busy.some((b) => b.itemId !== itemId && b.from < endAt && startAt < b.to) ? [id] : [];
      }),
    );
  }

  const lastMoment = (s: SlotWhole) => s.startAt - s.until * MINUTE;

  function viewsFor(learnerId: string, personId: string): OpenSlotView[] {
    const now = clock.now();
    const slots = store.slotsFor(learnerId, now, SHOWN);
    if (!slots.length) return [];
    const busy = busyIn(learnerId, personId, now, slots.at(-1)!.endAt);
    const withheld = withheldOf(slots);
    return slots.flatMap((s): OpenSlotView[] => {
      const mine = store.bookingOf(s.id, learnerId);
      if (!mine && (s.taken >= s.places || lastMoment(s) <= now || withheld.has(s.id))) return [];
      return [
        {
          id: s.id,
          start: iso(s.startAt),
          end: iso(s.endAt),
          ...{ title: s.title, details: s.details, place: s.place, by: s.by },
          left: s.places - s.taken,
          names: s.namesShown ? store.names(s.id) : [],
          booking: mine?.id ?? null,
          until: iso(lastMoment(s)),
          clashes: busy.some((b) => b.itemId !== mine?.itemId && b.from < s.endAt && s.startAt < b.to),
        },
      ];
    });
  }

  /** Gives what is left of the same offer near a moment, what fits between what the learner has first. */
  function nearest(s: SlotWhole, learnerId: string, personId: string): OpenSlotView[] {
    const left = viewsFor(learnerId, personId)
      .filter((v) => v.booking === null && v.id !== s.id && store.slot(v.id)?.openTimeId === s.openTimeId)
      .map((v) => ({ ...v, at: v, start: Date.parse(v.start), end: Date.parse(v.end) }));
    const fitting = freeSlots(
      left.filter((v) => !v.clashes),
      [],
      s.startAt,
    );
    const others = freeSlots(
      left.filter((v) => v.clashes),
      [],
      s.startAt,
    );
    return [...fitting, ...others].slice(0, NEAREST).map((v) => v.at);
  }

  const meetingOf = (s: SlotWhole, title: string) => ({
    title,
    place: s.place,
    details: s.details,
    start: s.startAt,
    end: s.endAt,
    zone: store.byId(s.openTimeId)!.zone,
  });

  /** Gives what whoever offers it has of it: by whom it is taken, or nothing where nobody has it any more. */
  function putOwn(slotId: string, now: number): void {
    const s = store.slot(slotId)!;
    const names = store.names(slotId).map((name) => firstName(name));
    if (names.length)
      store.setItem(
        slotId,
        meetings.putOwn(s.ownLearnerId, s.itemId, meetingOf(s, `${s.title}: ${names.join(', ')}`), now),
      );
    else if (s.itemId !== null) {
      meetings.removeOwn(s.itemId, now);
      store.setItem(slotId, null);
    }
  }

  /**
   * Takes one within a transaction; false where no place is left, or it is withheld. Whoever offers it is bound by its places alone, and
   * by the clock.
   * @throws ProblemError
   */
  function put(
    s: SlotWhole,
    learnerId: string,
    { personId, word, isTeachers = false }: { personId: string | null; word: string; isTeachers?: boolean },
    now: number,
  ): boolean {
    if (!store.isFor(s.openTimeId, learnerId)) throw notFound('time');
    if (s.endedAt !== null && !isTeachers)
      throw new ProblemError(409, 'ended', 'These times are not offered any more.', {
        remedy: 'Ask by a note for another one.',
      });
    if ((isTeachers ? s.startAt : lastMoment(s)) <= now)
      throw new ProblemError(409, 'too-late', 'It is too late to take this time.', {
        remedy: 'Take a later one, or ask by a note.',
      });
    if (store.bookingOf(s.id, learnerId)) return true;
    if (store.takenBy(s.openTimeId, learnerId) >= s.each)
      throw new ProblemError(409, 'enough', `At most ${s.each} of these times can be taken.`, {
        remedy: 'Give one back first, or move it.',
      });
    if (s.taken >= s.places || (!isTeachers && withheldOf([s]).size)) return false;
    const itemId = meetings.putTaken(
      learnerId,
      { personId: s.personId, name: s.by },
      meetingOf(s, `${s.title} with ${firstName(s.by)}`),
      now,
    );
    store.addBooking({ id: orderedId(now), slotId: s.id, learnerId, personId, word, itemId, at: now });
    putOwn(s.id, now);
    return true;
  }

  function end(found: BookingRow, now: number): void {
    store.endBooking(found.id, now);
    if (found.itemId !== null) meetings.removeTaken(found.itemId, now);
    putOwn(found.slotId, now);
  }

  const whenOf = (s: SlotWhole) =>
    shortWhen(instantOf(s.startAt), ianaZone(store.byId(s.openTimeId)!.zone) ?? UTC);
  /** Tells the other side what became of a time. */
  function toldOf(
    s: SlotWhole,
    learnerId: string,
    { personId, id, what, word }: { personId: string; id: string; what: Turn; word: string },
  ): void {
    const by = firstName(people.person(personId)?.name ?? '');
    const [did, title, to] =
      what === 'taken'
        ? ['has taken a time', 'taken', '']
        : what === 'givenBack'
          ? ['gave a time back', 'given back', '']
          : ['moved a time', 'moved', `, to ${whenOf(what.to)}`];
    const line = [`${by} ${did}: ${s.title}, ${whenOf(s)}${to}.`, word].filter(Boolean).join(' ');
    const of = firstName(learnerName(learnerId));
    const isTeachers = personId === s.personId;
    const others = isTeachers ? mayTake(learnerId).filter((each) => each !== personId) : [s.personId];
    tell(others, isTeachers ? learnerId : s.ownLearnerId, {
      id: `${id} ${title}`,
      title: `${of}: a time was ${title}`,
      line,
      leads: '/open-times?',
      // Somebody from whom the calendar it stands in is kept does not hear of it.
      itemId: isTeachers ? (store.booking(id)?.itemId ?? null) : null,
    });
  }

  function viewOf(id: string): OpenTimesView {
    const row = store.byId(id)!;
    const taken = store.bookingsOf(id);
    const slots = store.slotsOf(id);
    const ahead = slots.flatMap((s) => (s.endAt > clock.now() ? (store.slot(s.id) ?? []) : []));
    const withheld = row.endedAt === null ? withheldOf(ahead) : new Set();
    return {
      id,
      ...{ title: row.title, place: row.place, details: row.details, places: row.places },
      ended: row.endedAt !== null,
      learners: store.namesFor(id),
      slots: slots.map((s) => ({
        id: s.id,
        start: iso(s.startAt),
        end: iso(s.endAt),
        withheld: withheld.has(s.id),
        taken: taken
          .filter((b) => b.slotId === s.id)
          .map((b) => ({ booking: b.id, learner: b.learner, by: b.by ?? '', word: b.word, at: iso(b.at) })),
      })),
    };
  }

  return {
    /** Gives what somebody offers that has something ahead. */
    of: (personId: string): OpenTimesView[] => store.of(personId, clock.now()).map((row) => viewOf(row.id)),

    /** Offers times: breaks, and what one has already in one’s own schedule, are left out. */
    async offer(
      personId: string,
      asked: Omit<NewOpenTimes, 'learnerIds'> & { learnerIds: readonly string[] },
    ): Promise<OpenTimesView> {
      const own = ownOf(personId);
      if (!own)
        throw new ProblemError(409, 'no-own', 'What is taken stands in a schedule of your own.', {
          remedy: 'Begin one first, under Calendars for others.',
        });
      const id = keyedId(personId, asked.key);
      if (store.byId(id)) return viewOf(id);
      await attempts.take('openTimes', personId);
      const zone = ianaZone(own.zone) ?? UTC;
      const now = clock.now();
      const days = { firstDay: parseDate(asked.firstDay), lastDay: parseDate(asked.lastDay) };
      if (days.lastDay - days.firstDay > 400)
        throw tooMany('That is more than a year.', 'Offer a shorter span.');
      const reach = [days.firstDay * 86_400_000, (days.lastDay + 2) * 86_400_000] as const;
      const slots = slotsOf(
        { ...asked, ...days },
        {
          zone,
          daysOff: asked.daysOff.map((d) => ({ from: parseDate(d.from), to: parseDate(d.to) })),
          taken: busyIn(own.id, personId, ...reach),
        },
      ).filter((s) => s.start > now);
      if (!slots.length)
        throw new ProblemError(422, 'invalid', 'No time is left like that.', {
          remedy: 'Choose other days or hours: breaks, and what you have already, are left out.',
        });
      const learnerIds = [...new Set<string>(asked.learnerIds)].filter((each) => each !== own.id);
      if (!learnerIds.length)
        throw new ProblemError(422, 'invalid', 'Choose whom it is for.', { fields: [] });
      store.transaction(() => {
        if (store.of(personId, now).filter((t) => t.endedAt === null).length >= MOST.openTimes)
          throw tooMany(
            `You offer times ${MOST.openTimes} times over, which is the most.`,
            'End some first.',
          );
        const { title, details, place, places, each, namesShown, until } = asked;
        store.add(
          {
            ...{ id, personId, learnerId: own.id, title, details, place, zone: own.zone },
            ...{ places, each, namesShown, until, createdAt: now },
          },
          learnerIds,
          slots.map((s) => ({ id: orderedId(now), openTimeId: id, startAt: s.start, endAt: s.end })),
        );
      });
      const by = people.person(personId)?.name ?? '';
      for (const learnerId of learnerIds) {
        tell(
          mayTake(learnerId).filter((each) => each !== personId),
          learnerId,
          {
            id,
            title: `${by} offers times`,
            line: `${asked.title}. Take one of ${slots.length}.`,
            leads: '/open-times?',
          },
        );
        changed(learnerId);
      }
      return viewOf(id);
    },

    /** Offers them no more; what is taken stays. */
    end(id: string): void {
      store.transaction(() => store.end(id, clock.now()));
    },

    slots: viewsFor,

    /** Takes a time for a learner; where somebody was faster, says what is left near it. */
    take(slotId: string, learnerId: string, personId: string, word: string): Taken {
      const now = clock.now();
      const isTaken = store.transaction(() => {
        const s = store.slot(slotId);
        if (!s) throw notFound('time');
        return put(s, learnerId, { personId, word }, now);
      });
      const s = store.slot(slotId)!;
      if (!isTaken) return { taken: false, nearest: nearest(s, learnerId, personId) };
      const { id } = store.bookingOf(slotId, learnerId)!;
      toldOf(s, learnerId, { personId, id, what: 'taken', word });
      changed(learnerId);
      changed(s.ownLearnerId);
      return { taken: true, nearest: [] };
    },

    /** Gives a time back, or moves it to another one; by either side. */
    giveBack(id: string, personId: string, word: string, to: string | undefined): Taken {
      const now = clock.now();
      const found = store.booking(id);
      const before = found && store.slot(found.slotId);
      if (!found || !before) throw notFound('time that is taken');
      if (found.endedAt !== null) return { taken: to === undefined, nearest: [] };
      const isTeachers = before.personId === personId;
      if (!isTeachers && !mayTake(found.learnerId).includes(personId))
        throw notAllowed('give this time back');
      if (!isTeachers && lastMoment(before) <= now)
        throw new ProblemError(409, 'too-late', 'It is too late to give this time back.', {
          remedy: `Write ${firstName(before.by)} a note.`,
        });
      const move = () =>
        store.transaction(() => {
          end(found, now);
          if (to === undefined) return;
          const next = store.slot(to);
          if (!next || next.openTimeId !== before.openTimeId) throw notFound('time');
          // All of it or nothing: what one had is kept.
          // Whose it is, and the word they left, stay where the other side moves it.
          const kept = isTeachers ? found : { personId, word };
          if (!put(next, found.learnerId, { ...kept, isTeachers }, now)) throw new Full();
        });
      let isMoved = true;
      try {
        move();
      } catch (error) {
        if (!(error instanceof Full)) throw error;
        isMoved = false;
      }
      if (!isMoved) return { taken: false, nearest: nearest(before, found.learnerId, personId) };
      const what = to === undefined ? 'givenBack' : { to: store.slot(to)! };
      toldOf(before, found.learnerId, { personId, id, what, word });
      changed(found.learnerId);
      changed(before.ownLearnerId);
      return { taken: true, nearest: [] };
    },
  };
}
export type OpenTimeService = ReturnType<typeof openTimeService>;

/** Somebody was faster, in the middle of a move. */
class Full extends Error {}
