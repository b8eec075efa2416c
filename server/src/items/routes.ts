import { routes } from '@zephyrfield/core/api/routes';
import type { LayerChange } from '@zephyrfield/core/api/layer';
import type { ItemView, OccurrenceView } from '@zephyrfield/core/api/schemas';
import { editLayer } from '@zephyrfield/core/item/layer';
import type { RemindRule } from '@zephyrfield/core/notify/rules';
import { DAY } from '@zephyrfield/core/time/civil';
import { recurrenceIdOf } from '@zephyrfield/core/time/when';
import type { BriefService } from '../briefs/service.ts';
import type { Clock } from '../clock.ts';
import type { Mount } from '../http/mount.ts';
import { ProblemError, changedMeanwhile, notFound, tooMany } from '../http/problem.ts';
import type { MadeJson } from '../http/replies.ts';
import { MOST } from '../limits.ts';
import type { UnderstandingService } from '../gather/understanding.ts';
import { changedLayer } from './layer.ts';
import type { OwnService } from './own-service.ts';
import type { OccurrenceRow } from './rows.ts';
import type { ItemRow } from '../gather/store.ts';
import type { ItemStore } from './store.ts';
import {
  isUndated,
  itemView,
  lastKnown,
  occurrenceView,
  occurrencesBetween,
  occurrencesOf,
  undatedOne,
  undatedView,
} from './views.ts';

const MOST_DAYS = 1200;
const NO_REMINDERS: ItemView['reminders'] = { own: null, rules: [], alarms: 0, moments: [] };

/** @throws ProblemError where a span of time ends before it begins, or is too long */
function spanOf({ from, to }: { from: string; to: string }): [from: number, to: number] {
  const [first, last] = [Date.parse(from), Date.parse(to)];
  if (first < last && last - first <= MOST_DAYS * DAY) return [first, last];
  throw new ProblemError(422, 'invalid', 'The span of time is not right.', {
    remedy: `Ask for at most ${MOST_DAYS} days, the first moment before the second.`,
  });
}

export interface ItemDeps {
  store: ItemStore;
  own: OwnService;
  briefs: BriefService;
  clock: Clock;
  understanding: UnderstandingService;
  /** Moment when a person is told of an occurrence, and the check of rules for it */
  notify: {
    /** Tells when a person is told of a date, from now on */
    remindersOf(personId: string, row: OccurrenceRow): ItemView['reminders'];
    /** @throws ProblemError where a rule comes after what it is for */
    checkRules(personId: string, row: OccurrenceRow, rules: readonly RemindRule[]): void;
  };
  /** Counts how many follow an item of one’s own, and in how many schedules it was opened; null where nobody does */
  lookedAt(item: ItemRow, personId: string): ItemView['looked'];
  /** Gives what readings have changed about an item, latest first */
  historyOf(itemId: string): ItemView['history'];
  /** Called after something of a learner's schedule has changed */
  changed(learnerId: string): void;
  /** Makes the reply of a span that holds very much, in a thread */
  between(span: { learnerId: string; personId: string; from: number; to: number }): Promise<MadeJson>;
}

/** Occurrences that one reply is made of in the server's own thread. */
const MANY_AT_ONCE = 1_500;

export function mountItems(
  mount: Mount,
  { store, own, briefs, clock, understanding, notify, lookedAt, historyOf, changed, between }: ItemDeps,
): void {
  mount.kept(routes.occurrences, ({ caller: { personId }, learner, query }) => {
    const [from, to] = spanOf(query);
    const count = store.countBetween(learner.id, from, to, MOST.occurrencesInReply + 1);
    if (count > MOST.occurrencesInReply)
      throw tooMany('That is too much to show at once.', 'Ask for a shorter span of time.');
    // Rows are made into a reply at some ten a millisecond: what holds very many is made beside the server's thread.
    return count > MANY_AT_ONCE
      ? between({ learnerId: learner.id, personId, from, to })
      : occurrencesBetween(store, learner.id, personId, from, to);
  });

  mount.kept(routes.texts, ({ caller, learner }) => store.texts(learner.id, caller.personId));

  mount(routes.item, ({ caller, params, query }): ItemView => {
    // What is shown as part of another item is opened there.
    const given = store.item(params.id)!;
    const same = given.item.sameAs ? store.item(given.item.sameAs) : undefined;
    const found = same && !store.isKeptFrom(same.item, caller.personId) ? same : given;
    const { id } = found.item;
    // A change to a whole series, and an item that has left its feed, still open: by the next date, or the
    // last one known.
    const row =
      store.occurrence(id, query.recurrenceId, caller.personId) ??
      store.nextOccurrence(id, clock.now(), caller.personId) ??
      lastKnown(found.item);
    const isUndated = !row && found.item.goneAt === null;
    const { master, overrides } = found.item.content;
    const face =
      overrides.find((o) => o.recurrenceId && recurrenceIdOf(o.recurrenceId) === query.recurrenceId) ??
      master ??
      overrides[0];
    if ((!row && !isUndated) || !face) throw notFound('item');
    const recurrenceId = row?.occurrence.recurrenceId ?? '';
    return itemView(store, found, caller.personId, row, face, {
      reminders: row?.occurrence.toMs ? notify.remindersOf(caller.personId, row) : NO_REMINDERS,
      brief: briefs.of(id, recurrenceId),
      photos: briefs.photos(id, recurrenceId),
      alike: understanding.alike(found.item),
      looked: found.kind === 'handMade' ? lookedAt(found.item, caller.personId) : null,
      // Of a series, what was told of this date and of all of it.
      history: historyOf(id).filter((c) => c.recurrenceId === '' || c.recurrenceId === recurrenceId),
    });
  });

  mount(routes.correctItem, async ({ params, body }) => ({
    corrected: await understanding.correct(store.item(params.id)!.item, body),
  }));
  mount(routes.joinWindow, async ({ params, body }) => {
    await understanding.joinWindow(store.item(params.id)!.item, body.joined);
    return { ok: true as const };
  });

  mount.kept(routes.undated, ({ caller, learner }) =>
    store
      .undated(learner.id, caller.personId)
      .filter(({ item }) => isUndated(item))
      .map(undatedView),
  );
  mount(routes.writeOwn, async ({ caller, learner, body }) => {
    const shown = body.shown && spanOf(body.shown);
    const written = await own.write(learner.id, body.writes, caller.personId);
    return {
      written,
      occurrences: shown
        ? written.flatMap(({ id }) => occurrencesOf(store, id, caller.personId, ...shown))
        : [],
    };
  });

  mount(routes.changeLayer, ({ caller, params, body }) => {
    const { item } = store.item(params.id)!;
    const saved = store.transaction(() => {
      const written = writeLayer(item, body, caller.personId);
      if (!written) throw changedMeanwhile();
      return written;
    });
    changed(item.learnerId);
    return saved;
  });

  mount(routes.finishAll, ({ caller, learner, body }) => {
    const { finished } = body;
    const saved = store.transaction(() =>
      body.items.flatMap(({ itemId, recurrenceId, version }) => {
        const { item } = store.item(itemId)!;
        // A date that is gone meanwhile has nothing to finish, and must not keep the others from it.
        if (findDate(item, recurrenceId, caller.personId) === null) return [];
        return writeLayer(item, { recurrenceId, version, finished }, caller.personId) ?? [];
      }),
    );
    changed(learner.id);
    return saved;
  });

  /** One clock runs at a time: one can only do one thing. */
  function stopOthers(learnerId: string, on: { itemId: string; recurrenceId: string }): void {
    for (const { layer } of store.running(learnerId)) {
      if (layer.itemId === on.itemId && layer.recurrenceId === on.recurrenceId) continue;
      store.writeLayer(editLayer(layer, { timer: false }, clock.now()), layer.version);
    }
  }

  mount(routes.timer, ({ caller, learner }) => {
    const first = store
      .running(learner.id)
      .find(({ calendarId }) => !store.isKeptFrom({ learnerId: learner.id, calendarId }, caller.personId));
    if (!first) return null;
    const { itemId, recurrenceId, timerSince, spent } = first.layer;
    return { itemId, recurrenceId, title: first.title, since: new Date(timerSince!).toISOString(), spent };
  });

  /** Changes what the crew shares on one date, with what is to be kept of it; null where somebody was faster. */
  function writeLayer(
    item: ItemRow,
    change: LayerChange & { recurrenceId: string },
    personId: string,
  ): OccurrenceView | null {
    const { id } = item;
    const { recurrenceId, version } = change;
    const row = dateOf(item, recurrenceId, personId);
    if (change.reminders && row) notify.checkRules(personId, row, change.reminders);
    const { row: next, record } = changedLayer(
      store.layer(id, recurrenceId),
      { itemId: id, ...change },
      clock.now(),
      personId,
      row?.occurrence.doneInCourse ?? false,
    );
    if (!store.writeLayer(next, version)) return null;
    if (change.timer) stopOthers(item.learnerId, next);
    if (record) store.addRecord({ itemId: id, recurrenceId, personId, ...record });
    return shownDate(item, recurrenceId, personId);
  }

  mount(routes.changePersonLayer, ({ caller, params, body }) => {
    const { personId } = caller;
    const { item } = store.item(params.id)!;
    const { version, ...change } = body;
    const saved = store.transaction(() => {
      dateOf(item, body.recurrenceId, personId);
      const before = store.personLayer(item.id, body.recurrenceId, personId);
      const given = Object.fromEntries(Object.entries(change).filter(([, value]) => value !== undefined));
      const row = { ...before, ...given, itemId: item.id, recurrenceId: body.recurrenceId, personId };
      if (!store.writePersonLayer({ ...row, updatedAt: clock.now() }, version)) throw changedMeanwhile();
      return shownDate(item, body.recurrenceId, personId);
    });
    // Nobody else's view has changed, but their reminders have, and their other windows show it.
    changed(item.learnerId);
    return saved;
  });

  /** One date of an item; undefined for work without one, null where there is no such date. */
  function findDate({ id, goneAt }: ItemRow, recurrenceId: string, personId: string) {
    const row = store.occurrence(id, recurrenceId, personId);
    if (row) return row;
    const isUndated = recurrenceId === '' && goneAt === null && !store.nextOccurrence(id, 0, personId);
    return isUndated ? undefined : null;
  }

  /** As `findDate`. @throws ProblemError where there is no such date */
  function dateOf(item: ItemRow, recurrenceId: string, personId: string) {
    const row = findDate(item, recurrenceId, personId);
    if (row === null) throw notFound('item');
    return row;
  }

  function shownDate(item: ItemRow, recurrenceId: string, personId: string) {
    const row = store.occurrence(item.id, recurrenceId, personId);
    return row ? occurrenceView(row) : undatedOne(store, item, personId);
  }
}
