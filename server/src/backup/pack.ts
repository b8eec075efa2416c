import { existsSync } from 'node:fs';
import { join } from 'node:path';
import {
  FEEDS,
  FILES,
  SCHEDULE_FILE,
  type ItemRef,
  type ScheduleArchive,
} from '@zephyrfield/core/api/archive';
import { ownOf } from '@zephyrfield/core/item/own';
import { calendarText } from '@zephyrfield/core/out/calendar';
import { feedText } from '@zephyrfield/core/out/as-it-came';
import { DEFAULT_SHARE } from '@zephyrfield/core/out/share';
import { DAY } from '@zephyrfield/core/time/civil';
import { and, eq, inArray, isNull } from 'drizzle-orm';
import { readDatabase, type Db } from '../db/open.ts';
import * as t from '../db/schema.ts';
import { scheduleGoingOut } from '../out/material.ts';
import { sightsIn } from '../people/sights.ts';
import { writeArchive, type Part } from './archive.ts';

export const SCHEDULE_HEAD = { format: 'zephyrfield-schedule', version: 1 } as const;

export interface PackJob {
  /** The database's file, and the folder of files */
  file: string;
  folder: string;
  /** Place where the archive is made */
  work: string;
  learnerId: string;
  /** Who makes it: what is kept from them is not in it, and of private notes only theirs are */
  personId: string;
  now: number;
}

/** Packs a schedule into an archive; gives where it lies. Runs in a worker thread. */
export async function packSchedule({ file, work, ...what }: PackJob): Promise<string> {
  const parts = readDatabase(file, (db) => [...partsOf(db, what)]);
  const to = join(work, 'schedule.zip');
  await writeArchive(to, { ...SCHEDULE_HEAD, made: what.now }, parts);
  return to;
}

/** The calendar of all of it that stands beside, for who has no Zephyrfield. */
const READABLE = 'schedule.ics';

function* partsOf(
  db: Db,
  { folder, learnerId, personId, now }: Omit<PackJob, 'file' | 'work'>,
): Generator<Part> {
  const { archive, feeds } = archiveOf(db, learnerId, personId);
  // What is lost on the disk takes nothing else along.
  archive.files = archive.files.filter(({ digest }) => existsSync(join(folder, digest)));
  yield { name: SCHEDULE_FILE, bytes: Buffer.from(JSON.stringify(archive, null, 1)) };
  for (const [name, text] of feeds) yield { name: `${FEEDS}/${name}`, bytes: Buffer.from(text) };
  const span = { learnerId, personId, from: now - 1_000 * DAY, to: now + 1_000 * DAY };
  const schedule = scheduleGoingOut(db, span, now);
  const readable = calendarText({
    schedule,
    rules: { ...DEFAULT_SHARE, workAs: 'todo' },
    salt: learnerId,
    now,
  });
  yield { name: READABLE, bytes: Buffer.from(readable) };
  for (const digest of new Set(archive.files.map((f) => f.digest)))
    yield { name: `${FILES}/${digest}`, file: join(folder, digest) };
}

const iso = (ms: number) => new Date(ms).toISOString();

/** A schedule in the words of an archive, and the feeds of its sources. */
function archiveOf(db: Db, learnerId: string, personId: string) {
  const kept = sightsIn(db)(personId, learnerId);
  const learner = db.select().from(t.learner).where(eq(t.learner.id, learnerId)).get()!;
  const calendars = db
    .select()
    .from(t.calendar)
    .where(eq(t.calendar.learnerId, learnerId))
    .orderBy(t.calendar.position)
    .all()
    .filter((c) => !kept.has(c.id));
  const shown = new Set(calendars.map((c) => c.id));
  const sources = db
    .select()
    .from(t.source)
    .where(and(eq(t.source.learnerId, learnerId), isNull(t.source.removedAt)))
    .all();
  const items = db
    .select({
      id: t.item.id,
      uid: t.item.uid,
      sourceId: t.item.sourceId,
      calendarId: t.item.calendarId,
      kind: t.item.kind,
      handIn: t.item.handIn,
      content: t.item.content,
    })
    .from(t.item)
    .where(and(eq(t.item.learnerId, learnerId), isNull(t.item.goneAt)))
    .all()
    .filter((i) => shown.has(i.calendarId));
  const bySource = new Map<string, typeof items>();
  for (const item of items) bySource.set(item.sourceId, [...(bySource.get(item.sourceId) ?? []), item]);
  const gathered = sources.filter(
    (s) => s.kind !== 'handMade' && [s.calendarId, ...Object.values(s.sections)].every((id) => shown.has(id)),
  );
  const hand = new Set(sources.filter((s) => s.kind === 'handMade').map((s) => s.id));
  const known = new Set(gathered.map((s) => s.id));
  const refs = new Map<string, ItemRef>();
  for (const { id, uid, sourceId } of items)
    if (hand.has(sourceId)) refs.set(id, { own: id });
    else if (known.has(sourceId)) refs.set(id, { source: sourceId, uid });
  const ids = [...refs.keys()];
  /** Rows of what hangs on items, with what they are of in place of an id; in pieces that SQLite takes. */
  const hanging = <R extends { itemId: string }>(read: (part: string[]) => R[]) =>
    Array.from({ length: Math.ceil(ids.length / 500) }, (_, n) => read(ids.slice(n * 500, n * 500 + 500)))
      .flat()
      .map(({ itemId, ...row }) => ({ of: refs.get(itemId)!, ...row }));
  const archive: ScheduleArchive = {
    learner: { name: learner.name, zone: learner.zone, term: learner.term, reminders: learner.reminders },
    calendars: calendars.map(
      ({ id, name, kind, category, colour, flag, zone, reminders, alarms, audience }) => ({
        ref: id,
        name,
        kind,
        category,
        colour,
        flag,
        zone,
        reminders,
        alarms,
        audience,
      }),
    ),
    sources: gathered.map((s, n) => ({
      ref: s.id,
      // What somebody else publishes is brought back as it stood then.
      kind: s.kind === 'followedLink' ? 'followedLink' : 'oneTimeFile',
      calendar: s.calendarId,
      feed: `${n}.ics`,
      masked: s.addressMasked,
      sealed: s.addressSealed,
      rules: s.rules,
      sections: s.sections,
      paused: s.kind === 'followedLink' && s.nextCheckAt === null,
    })),
    own: items
      .filter((i) => hand.has(i.sourceId))
      .map(({ id, calendarId, content, kind, handIn }) => ({
        ref: id,
        calendar: calendarId,
        item: ownOf(content, { kind, handIn }),
      })),
    layers: hanging((part) => db.select().from(t.layer).where(inArray(t.layer.itemId, part)).all()).map(
      ({ of, recurrenceId, finishedAt, handedIn, stillToDo, aim, estimate, spent, position, reminders }) => ({
        of,
        recurrenceId,
        finishedAt: finishedAt === null ? null : iso(finishedAt),
        handedIn,
        stillToDo,
        aim,
        estimate,
        spent,
        position,
        reminders,
      }),
    ),
    notes: hanging((part) =>
      db
        .select()
        .from(t.personLayer)
        .where(and(inArray(t.personLayer.itemId, part), eq(t.personLayer.personId, personId)))
        .all(),
    ).map(({ of, recurrenceId, note, hidden, colour }) => ({ of, recurrenceId, note, hidden, colour })),
    records: hanging((part) =>
      db
        .select({
          itemId: t.record.itemId,
          recurrenceId: t.record.recurrenceId,
          kind: t.record.kind,
          way: t.record.way,
          note: t.record.note,
          at: t.record.at,
          by: t.user.name,
        })
        .from(t.record)
        .leftJoin(t.user, eq(t.user.id, t.record.personId))
        .where(inArray(t.record.itemId, part))
        .all(),
    ).map((r) => ({ ...r, at: iso(r.at) })),
    briefs: hanging((part) =>
      db
        .select({ itemId: t.brief.itemId, recurrenceId: t.brief.recurrenceId, brief: t.briefText.value })
        .from(t.brief)
        .innerJoin(t.briefText, eq(t.briefText.id, t.brief.textId))
        .where(inArray(t.brief.itemId, part))
        .all(),
    ),
    files: hanging((part) =>
      db
        .select({
          itemId: t.briefFile.itemId,
          recurrenceId: t.briefFile.recurrenceId,
          name: t.briefFile.name,
          digest: t.briefFile.digest,
          as: t.briefFile.of,
        })
        .from(t.briefFile)
        .where(and(inArray(t.briefFile.itemId, part), isNull(t.briefFile.removedAt)))
        .all(),
    ),
    plan: null,
    runUps: hanging((part) => db.select().from(t.runUp).where(inArray(t.runUp.itemId, part)).all()).map(
      ({ of, recurrenceId, version: _version, updatedAt: _at, ...runUp }) => ({ of, recurrenceId, runUp }),
    ),
  };
  const settings = db
    .select()
    .from(t.planSettings)
    .where(eq(t.planSettings.learnerId, learnerId))
    .get()?.settings;
  if (settings)
    archive.plan = {
      ...settings,
      travel: Object.fromEntries(Object.entries(settings.travel).filter(([id]) => shown.has(id))),
    };
  const feeds = gathered.map((s, n): [string, string] => [
    `${n}.ics`,
    feedText({
      name: s.feedName ?? s.addressMasked,
      zones: s.zones,
      entries: (bySource.get(s.id) ?? []).map((i) => i.content),
      at: s.lastGoodAt ?? s.createdAt,
    }),
  ]);
  return { archive, feeds };
}
