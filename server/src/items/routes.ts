import { routes } from '@zephyrfield/core/api/routes';
import type { ItemView, OccurrenceView } from '@zephyrfield/core/api/schemas';
import { allLinks } from '@zephyrfield/core/ical/links';
import { dueOf } from '@zephyrfield/core/item/dates';
import { ownOf } from '@zephyrfield/core/item/own';
import { isWork } from '@zephyrfield/core/item/kind';
import { richText } from '@zephyrfield/core/item/rich-text';
import { DAY } from '@zephyrfield/core/time/civil';
import type { Rules } from '@zephyrfield/core/gather/rules';
import { recurrenceIdOf, type When } from '@zephyrfield/core/time/when';
import type { BriefService } from '../briefs/service.ts';
import type { Clock } from '../clock.ts';
import type { Mount } from '../http/mount.ts';
import { ProblemError, changedMeanwhile, notFound } from '../http/problem.ts';
import type { ItemRow } from '../gather/store.ts';
import type { NotifyService } from '../notify/service.ts';
import type { UnderstandingService } from '../gather/understanding.ts';
import { changedLayer } from './layer.ts';
import type { OwnService } from './own-service.ts';
import { NO_LAYER, type ItemStore, type LayerFields, type OccurrenceRow } from './store.ts';

const NONE: ReadonlyMap<string, string[]> = new Map();

export function occurrenceView({ occurrence: o, ...layer }: OccurrenceRow, alsoIn: ReadonlyMap<string, string[]> = NONE): OccurrenceView {
  return {
    itemId: o.itemId,
    recurrenceId: o.recurrenceId,
    calendarId: o.calendarId,
    alsoIn: alsoIn.get(o.itemId) ?? [],
    title: o.title,
    place: o.place,
    kind: o.kind,
    handIn: o.handIn,
    status: o.status,
    start: o.start,
    end: o.end,
    due: o.due,
    undated: false,
    own: o.own,
    ...layerView(layer),
  };
}

function layerView({ finishedAt, handedIn, stillToDo, aim, estimate, hidden, colour, position, version }: LayerFields) {
  return {
    finished: finishedAt !== null,
    finishedAt: finishedAt === null ? null : new Date(finishedAt).toISOString(),
    handedIn,
    stillToDo: stillToDo ?? false,
    aim,
    estimate,
    hidden: hidden ?? false,
    colour,
    position,
    version: version ?? 0,
  };
}

/** Whether open work has no date at all: what merely lies beyond the stored horizon has one. */
function isUndated({ kind, content: { master, overrides } }: ItemRow): boolean {
  if (!isWork(kind) || overrides.length || !master) return false;
  return !master.start && !master.due && !master.completed && master.percent !== 100;
}

/** Work without a date, as if it stood on the day it was made. */
function undatedView({ item, ...layer }: { item: ItemRow } & LayerFields): OccurrenceView {
  const { id, calendarId, title, kind, handIn, content, createdAt, uid } = item;
  const day: When = { kind: 'date', date: new Date(createdAt).toISOString().slice(0, 10) };
  const place = content.master?.place ?? '';
  return {
    itemId: id,
    recurrenceId: '',
    calendarId,
    alsoIn: [],
    title,
    place,
    kind,
    handIn,
    status: 'confirmed',
    start: day,
    end: null,
    due: null,
    undated: true,
    own: uid === `${id}@zephyrfield`,
    ...layerView(layer),
  };
}

/** An item without any date in the horizon, as it stood when its feed last had it. */
function lastKnown({ id, calendarId, learnerId, title, kind, handIn, content }: ItemRow): OccurrenceRow | null {
  const face = content.master ?? content.overrides[0];
  const start = face && (face.start ?? face.due);
  if (!start) return null;
  const due = dueOf({ start, end: face.end, due: face.due }, kind, title);
  const occurrence = {
    itemId: id,
    recurrenceId: '',
    learnerId,
    calendarId,
    title,
    place: face.place,
    status: face.status,
    kind,
    handIn,
    start,
    end: face.end,
    due,
    fromMs: 0,
    toMs: 0,
    duplicate: false,
    own: false,
  };
  return { occurrence, ...NO_LAYER };
}

/** The edges an item was joined from, or was told apart into. */
function windowOf({ item, rules }: { item: ItemRow; rules: Rules }): ItemView['window'] {
  const edges = item.content.master?.windowOf;
  if (edges) return { joined: true, opens: edges[0].title, closes: edges[1].title };
  return rules.unjoined.includes(item.uid) ? { joined: false, opens: '', closes: item.title } : null;
}

/** A learner's occurrences between two instants (milliseconds), as they are shown. */
export function occurrencesBetween(store: ItemStore, learnerId: string, from: number, to: number): OccurrenceView[] {
  // A day more on both sides: all-day and floating ones are stored as if in UTC, and the person may be anywhere.
  const alsoIn = store.alsoIn(learnerId);
  return store.between(learnerId, from - DAY, to + DAY).map((row) => occurrenceView(row, alsoIn));
}

const MOST_DAYS = 1200;

export interface ItemDeps {
  store: ItemStore;
  own: OwnService;
  briefs: BriefService;
  clock: Clock;
  understanding: UnderstandingService;
  /** When a person is told of an occurrence, and the check of rules for it */
  notify: Pick<NotifyService, 'remindersOf' | 'checkRules'>;
  /** What readings have changed about an item, latest first */
  historyOf(itemId: string): ItemView['history'];
  /** Called after something of a learner's schedule has changed */
  changed(learnerId: string): void;
}

export function mountItems(mount: Mount, { store, own, briefs, clock, understanding, notify, historyOf, changed }: ItemDeps): void {
  mount(routes.occurrences, ({ learner, query }) => {
    const [from, to] = [Date.parse(query.from), Date.parse(query.to)];
    if (!(from < to) || to - from > MOST_DAYS * DAY)
      throw new ProblemError(422, 'invalid', 'The span of time is not right.', { remedy: `Ask for at most ${MOST_DAYS} days, the first moment before the second.` });
    return occurrencesBetween(store, learner.id, from, to);
  });

  mount(routes.texts, ({ learner }) => store.texts(learner.id));

  mount(routes.item, ({ caller, params, query }): ItemView => {
    // What is shown as part of another item is opened there.
    const given = store.item(params.id)!;
    const found = (given.item.sameAs && store.item(given.item.sameAs)) || given;
    const { id } = found.item;
    // A change to a whole series, and an item that has left its feed, still open: by the next date, or the last one known.
    const row = store.occurrence(id, query.recurrenceId) ?? store.nextOccurrence(id, clock.now()) ?? lastKnown(found.item);
    const isUndated = !row && found.item.goneAt === null;
    const { master, overrides } = found.item.content;
    const face = overrides.find((o) => o.recurrenceId && recurrenceIdOf(o.recurrenceId) === query.recurrenceId) ?? master ?? overrides[0];
    if ((!row && !isUndated) || !face) throw notFound('item');
    const recurrenceId = row?.occurrence.recurrenceId ?? '';
    const layer = store.layer(id, recurrenceId);
    return {
      occurrence: row ? occurrenceView(row, store.alsoIn(found.item.learnerId)) : undatedView({ item: found.item, ...NO_LAYER, ...layer }),
      own: found.kind === 'handMade' ? { item: ownOf(found.item.content, found.item), version: found.item.version } : null,
      note: layer?.note ?? '',
      spent: layer?.spent ?? 0,
      timerSince: layer?.timerSince == null ? null : new Date(layer.timerSince).toISOString(),
      reminders: row && row.occurrence.toMs ? notify.remindersOf(caller.personId, row) : { own: null, rules: [], alarms: 0, moments: [] },
      records: store.recordsOf(id, recurrenceId).map(({ at, by, ...rest }) => ({ ...rest, at: new Date(at).toISOString(), by: by ?? '' })),
      brief: briefs.of(id, recurrenceId),
      description: richText(face.description, face.html),
      links: allLinks(face),
      categories: face.categories,
      origin: {
        calendar: found.calendarName,
        kind: found.kind,
        address: found.kind === 'handMade' ? null : found.address,
        lastGood: found.lastGoodAt === null ? null : new Date(found.lastGoodAt).toISOString(),
        uid: found.item.uid,
        course: found.item.course,
      },
      repeats: Boolean(master?.repeat),
      percent: face.percent,
      gone: found.item.goneAt !== null,
      duplicates: store.duplicatesOf(id).map((t) => ({ itemId: t.id, calendarId: t.calendarId, calendar: t.calendar, notDuplicate: t.notDuplicate === 1, when: t.when === null ? null : (JSON.parse(t.when) as When) })),
      alike: understanding.alike(found.item),
      window: windowOf(found),
      // Of a series, what was told of this date and of all of it.
      history: historyOf(id).filter((c) => c.recurrenceId === '' || c.recurrenceId === recurrenceId),
    };
  });

  mount(routes.correctItem, async ({ params, body }) => ({ corrected: await understanding.correct(store.item(params.id)!.item, body) }));
  mount(routes.joinWindow, async ({ params, body }) => {
    await understanding.joinWindow(store.item(params.id)!.item, body.joined);
    return { ok: true as const };
  });
  mount(routes.setDuplicate, ({ learner, params, body }) => {
    understanding.setDuplicate(learner.id, store.item(params.id)!.zone, params.id, params.otherId, body.duplicate);
    return { ok: true as const };
  });

  mount(routes.undated, ({ learner }) =>
    store
      .undated(learner.id)
      .filter(({ item }) => isUndated(item))
      .map(undatedView),
  );
  mount(routes.writeOwn, async ({ caller, learner, body }) => ({ written: await own.write(learner.id, body.writes, caller.personId) }));

  mount(routes.changeLayer, ({ caller, params, body }) => {
    const found = store.item(params.id)!;
    const saved = store.transaction(() => {
      const { id, goneAt } = found.item;
      const row = store.occurrence(id, body.recurrenceId);
      if (!row && (body.recurrenceId !== '' || goneAt !== null || store.nextOccurrence(id, 0))) throw notFound('item');
      if (body.reminders && row) notify.checkRules(caller.personId, row, body.reminders);
      const now = clock.now();
      const { row: next, record } = changedLayer(store.layer(id, body.recurrenceId), { itemId: id, ...body }, now, caller.personId);
      if (!store.writeLayer(next, body.version)) throw changedMeanwhile();
      if (record) store.addRecord({ itemId: id, recurrenceId: body.recurrenceId, personId: caller.personId, ...record });
      const written = store.occurrence(id, body.recurrenceId);
      return written ? occurrenceView(written) : undatedView({ item: found.item, ...NO_LAYER, ...store.layer(id, body.recurrenceId) });
    });
    changed(found.item.learnerId);
    return saved;
  });
}
