import { keyOf } from '@zephyrfield/core/item/occurrence';
import { and, desc, eq, getTableColumns, gt, isNotNull, isNull, lt, lte, notExists, sql } from 'drizzle-orm';
import { contentFrom } from '@zephyrfield/core/ical/content';
import { takesTime } from '@zephyrfield/core/item/busy';
import { unionAll } from 'drizzle-orm/sqlite-core';
import type { Db } from '../db/open.ts';
import type { Sights } from '../people/sights.ts';
import {
  LAYER_FIELDS,
  NO_LAYER,
  PERSON_FIELDS,
  byDate,
  fromRaw,
  type LayerWrite,
  type OccurrenceRow,
  type Raw,
} from './rows.ts';
import { LONG, calendar, item, layer, occurrence, personLayer, record, source, user } from '../db/schema.ts';

/**
 * Reading items and occurrences, with the layer that a learner's crew shares and what the person who looks has
 * for themselves.
 */
export function itemStore(db: Db, sights: Sights) {
  const p = sql.placeholder;
  const withLayer = { occurrence, ...LAYER_FIELDS, ...PERSON_FIELDS };
  const onOccurrence = and(
    eq(layer.itemId, occurrence.itemId),
    eq(layer.recurrenceId, occurrence.recurrenceId),
  );
  const personsOnOccurrence = and(
    eq(personLayer.itemId, occurrence.itemId),
    eq(personLayer.recurrenceId, occurrence.recurrenceId),
    eq(personLayer.personId, p('personId')),
  );
  const inSpan = and(
    eq(occurrence.learnerId, p('learnerId')),
    eq(occurrence.duplicate, false),
    lt(occurrence.fromMs, p('to')),
    gt(occurrence.toMs, p('from')),
  );
  // Most begin at most so long before what is asked for; the few long ones are found by an index of their
  // own.
  const short = and(
    inSpan,
    gt(occurrence.fromMs, sql`${p('from')} - ${sql.raw(String(LONG))}`),
    lte(sql`${occurrence.toMs} - ${occurrence.fromMs}`, sql.raw(String(LONG))),
  );
  const long = and(inSpan, gt(sql`${occurrence.toMs} - ${occurrence.fromMs}`, sql.raw(String(LONG))));
  const plain = () => db.select(getTableColumns(occurrence)).from(occurrence);
  const between = unionAll(plain().where(short), plain().where(long)).prepare();
  // Few have a layer. Joined to all of them, its empty columns took two thirds of the time of the whole.
  const layered = () =>
    db
      .select({ itemId: layer.itemId, recurrenceId: layer.recurrenceId, ...LAYER_FIELDS })
      .from(occurrence)
      .innerJoin(layer, onOccurrence);
  const layersBetween = unionAll(layered().where(short), layered().where(long)).prepare();
  const personLayersOf = db
    .select({ itemId: personLayer.itemId, recurrenceId: personLayer.recurrenceId, ...PERSON_FIELDS })
    .from(personLayer)
    .innerJoin(item, eq(item.id, personLayer.itemId))
    .where(and(eq(personLayer.personId, p('personId')), eq(item.learnerId, p('learnerId'))))
    .prepare();
  const one = db
    .select(withLayer)
    .from(occurrence)
    .leftJoin(layer, onOccurrence)
    .leftJoin(personLayer, personsOnOccurrence)
    .where(and(eq(occurrence.itemId, p('itemId')), eq(occurrence.recurrenceId, p('recurrenceId'))))
    .prepare();
  const next = db
    .select(withLayer)
    .from(occurrence)
    .leftJoin(layer, onOccurrence)
    .leftJoin(personLayer, personsOnOccurrence)
    .where(and(eq(occurrence.itemId, p('itemId')), gt(occurrence.toMs, p('now'))))
    .orderBy(occurrence.fromMs)
    .limit(1)
    .prepare();
  const ofItem = db
    .select(withLayer)
    .from(occurrence)
    .leftJoin(layer, onOccurrence)
    .leftJoin(personLayer, personsOnOccurrence)
    .where(
      and(eq(occurrence.itemId, p('itemId')), lt(occurrence.fromMs, p('to')), gt(occurrence.toMs, p('from'))),
    )
    .prepare();
  const undated = db
    .select({ item, ...LAYER_FIELDS, ...PERSON_FIELDS })
    .from(item)
    .leftJoin(layer, and(eq(layer.itemId, item.id), eq(layer.recurrenceId, '')))
    .leftJoin(
      personLayer,
      and(
        eq(personLayer.itemId, item.id),
        eq(personLayer.recurrenceId, ''),
        eq(personLayer.personId, p('personId')),
      ),
    )
    .innerJoin(source, eq(source.id, item.sourceId))
    .where(
      and(
        eq(item.learnerId, p('learnerId')),
        isNull(item.goneAt),
        isNull(item.sameAs),
        notExists(
          db
            .select({ one: sql`1` })
            .from(occurrence)
            .where(eq(occurrence.itemId, item.id)),
        ),
      ),
    )
    .prepare();
  const layerOf = db
    .select()
    .from(layer)
    .where(and(eq(layer.itemId, p('itemId')), eq(layer.recurrenceId, p('recurrenceId'))))
    .prepare();
  const personLayerOf = db
    .select()
    .from(personLayer)
    .where(
      and(
        eq(personLayer.itemId, p('itemId')),
        eq(personLayer.recurrenceId, p('recurrenceId')),
        eq(personLayer.personId, p('personId')),
      ),
    )
    .prepare();
  const running = db
    .select({ layer, title: item.title, calendarId: item.calendarId })
    .from(layer)
    .innerJoin(item, eq(item.id, layer.itemId))
    .where(and(isNotNull(layer.timerSince), eq(item.learnerId, p('learnerId'))))
    .orderBy(desc(layer.timerSince))
    .prepare();
  const recordsOf = db
    .select({ at: record.at, kind: record.kind, way: record.way, note: record.note, by: user.name })
    .from(record)
    .leftJoin(user, eq(user.id, record.personId))
    .where(and(eq(record.itemId, p('itemId')), eq(record.recurrenceId, p('recurrenceId'))))
    .orderBy(desc(record.at), desc(record.id))
    .limit(50)
    .prepare();
  const whole = db
    .select({
      item,
      calendarName: calendar.name,
      zone: calendar.zone,
      kind: source.kind,
      address: source.addressMasked,
      rules: source.rules,
      lastGoodAt: source.lastGoodAt,
    })
    .from(item)
    .innerJoin(calendar, eq(calendar.id, item.calendarId))
    .innerJoin(source, eq(source.id, item.sourceId))
    .where(eq(item.id, p('id')))
    .prepare();
  const { $client: sqlite } = db;
  const hasOwn = sqlite.prepare<[string, string], unknown>(
    `SELECT 1 FROM person_layer p JOIN item i ON i.id = p.item_id
      WHERE p.person_id = ? AND i.learner_id = ? LIMIT 1`,
  );
  const alsoIn = sqlite.prepare<[string], { id: string; calendarId: string }>(
    'SELECT same_as AS id, calendar_id AS calendarId FROM item WHERE same_as IS NOT NULL AND learner_id = ?',
  );
  const texts = sqlite.prepare<[string], { itemId: string; calendarId: string; content: string }>(
    `SELECT id AS itemId, calendar_id AS calendarId, content FROM item
      WHERE learner_id = ? AND gone_at IS NULL AND same_as IS NULL`,
  );
  // What is shown as part of something in a kept calendar stands for itself where that is kept.
  const standIns = sqlite.prepare<
    { learnerId: string; from: number; to: number; kept: string },
    { itemId: string; recurrenceId: string; sameAs: string }
  >(
    `SELECT o.item_id AS itemId, o.recurrence_id AS recurrenceId, i.same_as AS sameAs
      FROM occurrence o JOIN item i ON i.id = o.item_id JOIN item s ON s.id = i.same_as
      WHERE o.learner_id = @learnerId AND o.duplicate = 1 AND o.from_ms < @to AND o.to_ms > @from
        AND s.calendar_id IN (SELECT value FROM json_each(@kept))
        AND i.calendar_id NOT IN (SELECT value FROM json_each(@kept))`,
  );
  const countBetween = sqlite
    .prepare<{ learnerId: string; from: number; to: number; most: number }, number>(
      `SELECT count(*) FROM (SELECT 1 FROM occurrence WHERE learner_id = @learnerId AND from_ms < @to
        AND to_ms > @from LIMIT @most)`,
    )
    .pluck();
  /** Rows without those of calendars that are kept from somebody */
  const seen = <R>(
    rows: R[],
    personId: string,
    of: (row: R) => { learnerId: string; calendarId: string },
  ): R[] => {
    const [first] = rows;
    const kept = first ? sights(personId, of(first).learnerId) : null;
    return kept?.size ? rows.filter((row) => !kept.has(of(row).calendarId)) : rows;
  };
  const seenOne = <R extends { occurrence: { learnerId: string; calendarId: string } }>(
    row: R | undefined,
    personId: string,
  ): R | undefined => row && seen([row], personId, (r) => r.occurrence)[0];
  const duplicatesOf = sqlite.prepare<{ id: string }, DuplicateRow>(`
    WITH apart AS (SELECT iif(a = @id, b, a) AS id FROM verdict WHERE @id IN (a, b) AND NOT same)
    SELECT i.id, i.learner_id AS learnerId, i.title, c.id AS calendarId, c.name AS calendar,
      i.id IN (SELECT id FROM apart) AS notDuplicate,
      (SELECT coalesce(due, start) FROM occurrence o WHERE o.item_id = i.id ORDER BY from_ms
        LIMIT 1) AS "when"
    FROM item i JOIN calendar c ON c.id = i.calendar_id
    WHERE i.gone_at IS NULL AND (i.same_as = @id OR i.id IN (SELECT id FROM apart))`);
  return {
    /** Counts what touches a span of time, up to so many. */
    countBetween: (learnerId: string, from: number, to: number, most: number) =>
      countBetween.get({ learnerId, from, to, most }) ?? 0,
    /** Other calendars that have the same thing, by the item that is shown */
    alsoIn(learnerId: string, personId: string): Map<string, string[]> {
      const found = new Map<string, string[]>();
      const kept = sights(personId, learnerId);
      for (const { id, calendarId } of alsoIn.all(learnerId))
        if (!kept.has(calendarId)) found.set(id, [...(found.get(id) ?? []), calendarId]);
      return found;
    },
    /** Gives what is shown as part of an item, and what a person has told apart from it */
    duplicatesOf: (id: string, personId: string) =>
      duplicatesOf.all({ id }).filter((d) => !sights(personId, d.learnerId).has(d.calendarId)),
    /** Tells whether an item is in a calendar that is kept from somebody */
    isKeptFrom: ({ learnerId, calendarId }: { learnerId: string; calendarId: string }, personId: string) =>
      sights(personId, learnerId).has(calendarId),
    /** The beginnings of descriptions, for searching */
    texts: (learnerId: string, personId: string) =>
      seen(texts.all(learnerId), personId, ({ calendarId }) => ({ learnerId, calendarId }))
        .map(({ itemId, content }) => ({
          itemId,
          text: [contentFrom(content)]
            .flatMap(({ master, overrides }) => (master ? [master, ...overrides] : overrides))
            .map((i) => i.description.slice(0, 400))
            .join(' '),
        }))
        .filter((t) => t.text.trim() !== ''),
    /**
     * What touches a span of time, as one person sees it. Rows are put together by hand: the mapper would be
     * most of the time of this, the most frequent of reads.
     */
    between(learnerId: string, personId: string, from: number, to: number): OccurrenceRow[] {
      const span = { learnerId, from, to };
      const shared = byDate(layersBetween.all(span));
      const persons = byDate(personLayersOf.all({ personId, learnerId }));
      const rows = (between.values(span) as Raw[]).map((raw) => {
        const occurrence = fromRaw(raw);
        const name = keyOf(occurrence);
        return { occurrence, ...NO_LAYER, ...shared.get(name), ...persons.get(name) };
      });
      const kept = sights(personId, learnerId);
      if (!kept.size) return rows;
      const inPlace = new Map<string, OccurrenceRow>();
      for (const { sameAs, ...date } of standIns.all({ ...span, kept: JSON.stringify([...kept.keys()]) })) {
        const row = one.get({ ...date, personId })!;
        // Of several that are the same as one that is kept, one stands.
        inPlace.set(`${sameAs} ${row.occurrence.fromMs}`, row);
      }
      return [...rows.filter((r) => !kept.has(r.occurrence.calendarId)), ...inPlace.values()];
    },
    /** Gives what takes time in calendars that are kept from somebody who may know that it does. */
    busyBetween(
      learnerId: string,
      personId: string,
      from: number,
      to: number,
    ): OccurrenceRow['occurrence'][] {
      const kept = sights(personId, learnerId);
      if (![...kept.values()].includes('busy')) return [];
      return (between.values({ learnerId, from, to }) as Raw[])
        .map(fromRaw)
        .filter((o) => kept.get(o.calendarId) === 'busy' && takesTime(o));
    },
    occurrence: (itemId: string, recurrenceId: string, personId: string) =>
      seenOne(one.get({ itemId, recurrenceId, personId }), personId),
    /** The first occurrence that is not over yet */
    nextOccurrence: (itemId: string, now: number, personId: string) =>
      seenOne(next.get({ itemId, now, personId }), personId),
    /** One item's, between two instants */
    ofItem: (itemId: string, personId: string, from: number, to: number) =>
      seen(ofItem.all({ itemId, personId, from, to }), personId, (r) => r.occurrence),
    /** Work and to-dos without a date, gathered or made by hand */
    undated: (learnerId: string, personId: string) =>
      seen(undated.all({ learnerId, personId }), personId, (r) => r.item),
    layer: (itemId: string, recurrenceId: string) => layerOf.get({ itemId, recurrenceId }),
    personLayer: (itemId: string, recurrenceId: string, personId: string) =>
      personLayerOf.get({ itemId, recurrenceId, personId }),
    /** Tells whether a person has anything for themselves on a learner's items */
    hasOwn: (personId: string, learnerId: string) => hasOwn.get(personId, learnerId) !== undefined,
    recordsOf: (itemId: string, recurrenceId: string) => recordsOf.all({ itemId, recurrenceId }),
    addRecord: (row: typeof record.$inferInsert) => db.insert(record).values(row).run(),
    item: (id: string) => whole.get({ id }),
    /** The layers of a learner's whose clock runs, the latest first */
    running: (learnerId: string) => running.all({ learnerId }),
    /** Writes a layer if it is still at `version`; false where it is not. */
    writeLayer: (row: LayerWrite, version: number): boolean => {
      const next = { ...row, version: version + 1 };
      const { changes } =
        version === 0
          ? db.insert(layer).values(next).onConflictDoNothing().run()
          : db
              .update(layer)
              .set(next)
              .where(
                and(
                  eq(layer.itemId, row.itemId),
                  eq(layer.recurrenceId, row.recurrenceId),
                  eq(layer.version, version),
                ),
              )
              .run();
      return changes > 0;
    },
    /** Writes what a person has for themselves if it is still at `version`; false where it is not. */
    writePersonLayer: (row: Omit<typeof personLayer.$inferInsert, 'version'>, version: number): boolean => {
      const next = { ...row, version: version + 1 };
      const { changes } =
        version === 0
          ? db.insert(personLayer).values(next).onConflictDoNothing().run()
          : db
              .update(personLayer)
              .set(next)
              .where(
                and(
                  eq(personLayer.itemId, row.itemId),
                  eq(personLayer.recurrenceId, row.recurrenceId),
                  eq(personLayer.personId, row.personId),
                  eq(personLayer.version, version),
                ),
              )
              .run();
      return changes > 0;
    },
    transaction: <T>(work: () => T): T => db.transaction(work, { behavior: 'immediate' }),
  };
}
export type ItemStore = ReturnType<typeof itemStore>;
/** An item with its calendar and its source. */
export type ItemWhole = NonNullable<ReturnType<ItemStore['item']>>;
interface DuplicateRow {
  id: string;
  learnerId: string;
  title: string;
  calendarId: string;
  calendar: string;
  notDuplicate: number;
  when: string | null;
}
