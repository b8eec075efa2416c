import type { Brief } from '@zephyrfield/core/api/own';
import type { RemindRule } from '@zephyrfield/core/notify/rules';
import { contentFrom } from '@zephyrfield/core/ical/content';
import { keyOf } from '@zephyrfield/core/item/occurrence';
import { CALLED_OFF_STAYS, type OutItem, type OutSchedule } from '@zephyrfield/core/out/going-out';
import type { TableRecord } from '@zephyrfield/core/out/columns';
import { calendarStore } from '../calendars/store.ts';
import type { Db } from '../db/open.ts';
import { occurrenceView, undatedView } from '../items/views.ts';
import { itemStore } from '../items/store.ts';
import { sightsIn } from '../people/sights.ts';
import { planStore } from '../plan/store.ts';

/** Whose schedule goes out, as who lets it go out sees it, and between which instants (milliseconds). */
export interface Span {
  learnerId: string;
  personId: string;
  from: number;
  to: number;
}

interface ItemRow extends Omit<OutItem, 'content' | 'rules' | 'zones' | 'ofDeadlines'> {
  sourceId: string;
  content: string;
}
interface SourceRow {
  id: string;
  rules: string;
  zones: string;
  ofDeadlines: number;
}

/** Reads of a schedule all that may go out of it. It takes time: it is read in a thread beside the server's own. */
export function scheduleGoingOut(db: Db, { learnerId, personId, from, to }: Span, now: number): OutSchedule {
  const sights = sightsIn(db);
  const kept = sights(personId, learnerId);
  const items = itemStore(db, sights);
  const rows = items.between(learnerId, personId, from, to);
  const dates = rows.map((row) => occurrenceView(row));
  const undated = items.undated(learnerId, personId).map((row) => undatedView(row));
  const shown = new Set([...dates, ...undated].map((o) => o.itemId));
  const learner = db.$client
    .prepare<[string], { name: string; zone: string; reminders: string | null }>(
      'SELECT name, zone, reminders FROM learner WHERE id = ?',
    )
    .get(learnerId)!;
  const sources = new Map(sourcesOf(db, learnerId).map((s) => [s.id, sourceFrom(s)]));
  const calledOff = now - CALLED_OFF_STAYS;
  return {
    learnerId,
    name: learner.name,
    zone: learner.zone,
    reminders:
      learner.reminders === null ? null : (JSON.parse(learner.reminders) as OutSchedule['reminders']),
    calendars: calendarStore(db)
      .ofLearner(learnerId)
      .filter(({ id }) => !kept.has(id))
      .map(({ id, name, kind, colour, flag, reminders, alarms }) => ({
        id,
        name,
        kind,
        colour,
        flag,
        reminders,
        alarms,
      })),
    items: itemsOf(db, learnerId, calledOff)
      .filter((i) => !kept.has(i.calendarId) && (shown.has(i.id) || i.goneAt !== null))
      .map(({ sourceId, content, ...item }) => ({
        ...item,
        content: contentFrom(content),
        ...sources.get(sourceId)!,
      })),
    dates: [...dates, ...undated],
    dateReminders: Object.fromEntries(
      rows.flatMap(({ occurrence, reminders }): [string, RemindRule[]][] =>
        reminders ? [[keyOf(occurrence), reminders]] : [],
      ),
    ),
    runUps: planStore(db)
      .runUps(learnerId)
      .map(({ version: _version, updatedAt: _at, ...runUp }) => runUp),
  };
}

/** Gives what was told about work whose item one may see, the latest last. */
export function recordsGoingOut(db: Db, { learnerId, personId, from, to }: Span): TableRecord[] {
  const kept = sightsIn(db)(personId, learnerId);
  return db.$client
    .prepare<[string, number, number], Omit<TableRecord, 'due'> & { due: string | null }>(
      `SELECT coalesce(o.title, i.title) AS title, i.calendar_id AS calendarId, r.kind, r.way, r.note, u.name AS "by",
          r.at, o.due
        FROM record r JOIN item i ON i.id = r.item_id LEFT JOIN user u ON u.id = r.person_id
          LEFT JOIN occurrence o ON o.item_id = r.item_id AND o.recurrence_id = r.recurrence_id
        WHERE i.learner_id = ? AND r.at >= ? AND r.at < ? ORDER BY r.at, r.id`,
    )
    .all(learnerId, from, to)
    .filter((r) => !kept.has(r.calendarId))
    .map((r) => ({ ...r, due: r.due === null ? null : (JSON.parse(r.due) as TableRecord['due']) }));
}

const itemsOf = ({ $client: sqlite }: Db, learnerId: string, calledOff: number): ItemRow[] =>
  sqlite
    .prepare<[string, number], ItemRow>(
      `SELECT i.id, i.calendar_id AS calendarId, i.source_id AS sourceId, i.kind, i.hand_in AS handIn, i.title, i.content,
          i.created_at AS createdAt, i.gone_at AS goneAt,
          max(i.updated_at, coalesce((SELECT max(l.updated_at) FROM layer l WHERE l.item_id = i.id), 0)) AS updatedAt
        FROM item i WHERE i.learner_id = ? AND (i.gone_at IS NULL OR i.gone_at > ?)`,
    )
    .all(learnerId, calledOff);

const sourcesOf = ({ $client: sqlite }: Db, learnerId: string): SourceRow[] =>
  sqlite
    .prepare<[string], SourceRow>(
      'SELECT id, rules, zones, of_deadlines AS ofDeadlines FROM source WHERE learner_id = ?',
    )
    .all(learnerId);

const sourceFrom = ({ rules, zones, ofDeadlines }: SourceRow) => ({
  rules: JSON.parse(rules) as OutItem['rules'],
  zones: JSON.parse(zones) as OutItem['zones'],
  ofDeadlines: ofDeadlines === 1,
});

/** Briefs by the key of the date they are of; of all dates of an item by that of none. */
export function briefsOf({ $client: sqlite }: Db, learnerId: string): Map<string, Brief> {
  const rows = sqlite
    .prepare<[string], { itemId: string; recurrenceId: string; value: string }>(
      `SELECT b.item_id AS itemId, b.recurrence_id AS recurrenceId, t.value FROM brief b
        JOIN brief_text t ON t.id = b.text_id WHERE t.learner_id = ?`,
    )
    .all(learnerId);
  return new Map(rows.map(({ value, ...of }) => [keyOf(of), JSON.parse(value) as Brief]));
}
