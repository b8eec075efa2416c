import { contentFrom, contentText, type EntryContent } from '@zephyrfield/core/ical/content';
import type { EntryOccurrence } from '@zephyrfield/core/gather/entries';
import type { Brief } from '@zephyrfield/core/api/own';
import { duplicateKeyOf } from '@zephyrfield/core/gather/duplicates';
import { wordingOf } from '@zephyrfield/core/gather/snapshot';
import type { Alarm, FeedItem } from '@zephyrfield/core/ical/feed-item';
import { hash } from '@zephyrfield/core/lib/hash';
import { remindKind, type RemindRule, type RemindSet } from '@zephyrfield/core/notify/rules';
import { alarmsFrom } from '@zephyrfield/core/out/alarms';
import { recurrenceIdOf } from '@zephyrfield/core/time/when';
import { UTC, ianaZone } from '@zephyrfield/core/time/zone';
import { DEFAULT_SETTINGS } from '@zephyrfield/core/view/settings';
import { viewerOf } from '@zephyrfield/core/words/when';
import { readDatabase, type Db } from '../db/open.ts';
import type { Derived, ReadEntry } from '../gather/read-bytes.ts';
import { fromRaw, type Raw } from '../items/rows.ts';
import { stampIn } from './stamp.ts';

/** A calendar that others follow, to be read from the database at one moment. */
export interface PublishedJob {
  file: string;
  calendarId: string;
  /** How far ahead dates are worked out now: so far those reach that have been written since the last time */
  reach: number;
}

/** What all followers of a calendar are given. */
export interface Published {
  derived: Derived;
  /** By the item's UID; empty for what all of its dates share */
  briefs: { uid: string; recurrenceId: string; value: Brief }[];
  files: PublishedFile[];
  /** How far ahead its dates are worked out */
  horizonTo: number;
  /** What of it this is (see `stampIn`) */
  stamp: string;
}

export interface PublishedFile {
  uid: string;
  recurrenceId: string;
  name: string;
  type: string;
  size: number;
  digest: string;
}

interface ItemRow {
  id: string;
  uid: string;
  kind: ReadEntry['kind'];
  handIn: ReadEntry['handIn'];
  title: string;
  content: string;
}

/**
 * A calendar made by hand as if a feed had brought it: every date as its author has it, with the reminders they
 * suggest as alarms. Runs in a worker thread.
 */
export function publishedEntries({ file, calendarId, reach }: PublishedJob): Published {
  return readDatabase(file, (db) => {
    const calendar = calendarIn(db, calendarId);
    const viewer = viewerOf(ianaZone(calendar.zone) ?? UTC, DEFAULT_SETTINGS);
    const dates = datesIn(db, calendarId);
    const suggested = suggestionsIn(db, calendarId);
    const entries = itemsIn(db, calendarId).map((row): ReadEntry => {
      const occurrences = dates.get(row.id) ?? [];
      const rules = remindKind(row.kind);
      const common = (rules && calendar.reminders?.[rules]) ?? [];
      const content = withAlarms(contentFrom(row.content), occurrences, (recurrenceId, face) =>
        alarmsFrom(suggested.get(`${row.id} ${recurrenceId}`) ?? common, face, row, viewer),
      );
      const text = contentText(content);
      const { uid, kind, handIn, title } = row;
      const entry = {
        uid,
        section: null,
        kind,
        handIn,
        doubt: false,
        course: null,
        title,
        content,
        fingerprint: 0,
      };
      return {
        ...entry,
        fingerprint: parseInt(hash(`${kind} ${handIn} ${text}`), 36),
        content: text,
        wording: wordingOf(content),
        url: null,
        written: null,
        mustReparse: false,
        duplicateKey: duplicateKeyOf(entry, occurrences[0], viewer),
        repeats: Boolean(content.master?.repeat),
        occurrences,
      };
    });
    return {
      derived: {
        entries,
        openings: [],
        ofDeadlines: false,
        unchanged: new Set<string>(),
        rewritten: [],
        warnings: [],
        cutOff: null,
      },
      briefs: briefsIn(db, calendarId),
      files: filesIn(db, calendarId),
      horizonTo: calendar.horizonTo || reach,
      stamp: stampIn(db)(calendarId),
    };
  });
}

/** An entry with alarms; a date that has others than the rest is written out as one of its own. */
function withAlarms(
  content: EntryContent,
  dates: readonly EntryOccurrence[],
  alarmsOf: (recurrenceId: string, face: FeedItem) => Alarm[],
): EntryContent {
  const { master } = content;
  const withOwn = (face: FeedItem, recurrenceId: string) => ({
    ...face,
    alarms: alarmsOf(recurrenceId, face),
  });
  const overrides = content.overrides.map((o) => withOwn(o, recurrenceIdOf(o.recurrenceId!)));
  if (!master) return { master, overrides };
  const face = withOwn(master, '');
  if (!master.repeat) return { master: face, overrides };
  const written = new Set(overrides.map((o) => recurrenceIdOf(o.recurrenceId!)));
  const usual = JSON.stringify(face.alarms);
  for (const { recurrenceId, start, end, due } of dates) {
    if (written.has(recurrenceId)) continue;
    const at = due ?? start;
    const one: FeedItem = {
      ...master,
      repeat: null,
      recurrenceId: at,
      ...(master.due ? { due: at } : { start: at, end }),
    };
    const alarms = alarmsOf(recurrenceId, one);
    if (JSON.stringify(alarms) !== usual) overrides.push({ ...one, alarms });
  }
  return { master: face, overrides };
}

/** Items of a calendar that are made by hand and not taken away. */
const OF_CALENDAR = `JOIN source s ON s.id = i.source_id
  WHERE i.calendar_id = ? AND s.kind = 'handMade' AND i.gone_at IS NULL`;

function calendarIn({ $client: sqlite }: Db, calendarId: string) {
  const { zone, reminders, horizonTo } = sqlite
    .prepare<[string], { zone: string; reminders: string | null; horizonTo: number }>(
      `SELECT c.zone, c.reminders, coalesce((SELECT horizon_to FROM source s WHERE s.calendar_id = c.id
        AND s.kind = 'handMade'), 0) AS horizonTo FROM calendar c WHERE c.id = ?`,
    )
    .get(calendarId)!;
  return {
    zone,
    horizonTo,
    reminders: reminders === null ? null : (JSON.parse(reminders) as Partial<RemindSet>),
  };
}

const itemsIn = ({ $client: sqlite }: Db, calendarId: string): ItemRow[] =>
  sqlite
    .prepare<[string], ItemRow>(
      `SELECT i.id, i.uid, i.kind, i.hand_in AS handIn, i.title, i.content FROM item i ${OF_CALENDAR} ORDER BY i.id`,
    )
    .all(calendarId);

function datesIn({ $client: sqlite }: Db, calendarId: string): Map<string, EntryOccurrence[]> {
  const rows = sqlite
    .prepare<[string], Raw>(
      `SELECT o.* FROM occurrence o JOIN item i ON i.id = o.item_id ${OF_CALENDAR} ORDER BY o.from_ms`,
    )
    .raw()
    .all(calendarId);
  const found = new Map<string, EntryOccurrence[]>();
  for (const raw of rows as Raw[]) {
    const { itemId, fromMs, toMs, ...date } = fromRaw(raw);
    const list = found.get(itemId) ?? [];
    list.push({ ...date, from: fromMs, to: toMs });
    found.set(itemId, list);
  }
  return found;
}

/** The rules its author has set for single items and dates, by item and date. */
function suggestionsIn({ $client: sqlite }: Db, calendarId: string): Map<string, RemindRule[]> {
  const rows = sqlite
    .prepare<[string], { itemId: string; recurrenceId: string; reminders: string }>(
      `SELECT l.item_id AS itemId, l.recurrence_id AS recurrenceId, l.reminders FROM layer l
        JOIN item i ON i.id = l.item_id ${OF_CALENDAR} AND l.reminders IS NOT NULL`,
    )
    .all(calendarId);
  return new Map(
    rows.map(({ itemId, recurrenceId, reminders }) => [
      `${itemId} ${recurrenceId}`,
      JSON.parse(reminders) as RemindRule[],
    ]),
  );
}

const briefsIn = ({ $client: sqlite }: Db, calendarId: string): Published['briefs'] =>
  sqlite
    .prepare<[string], { uid: string; recurrenceId: string; value: string }>(
      `SELECT i.uid, b.recurrence_id AS recurrenceId, t.value FROM brief b JOIN brief_text t ON t.id = b.text_id
        JOIN item i ON i.id = b.item_id ${OF_CALENDAR}`,
    )
    .all(calendarId)
    .map(({ value, ...of }) => ({ ...of, value: JSON.parse(value) as Brief }));

const filesIn = ({ $client: sqlite }: Db, calendarId: string): PublishedFile[] =>
  sqlite
    .prepare<[string], PublishedFile>(
      `SELECT i.uid, f.recurrence_id AS recurrenceId, f.name, f.type, f.size, f.digest FROM brief_file f
        JOIN item i ON i.id = f.item_id ${OF_CALENDAR} AND f."of" = 'brief' AND f.removed_at IS NULL
        ORDER BY f.created_at`,
    )
    .all(calendarId);
