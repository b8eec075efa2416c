import { mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import {
  FEEDS,
  FILES,
  SCHEDULE_FILE,
  ScheduleArchive,
  type ArchiveLook,
} from '@zephyrfield/core/api/archive';
import { readDatabase } from '../db/open.ts';
import { sightsIn } from '../people/sights.ts';
import { BadArchive, openArchive, parseJson, type OpenArchive } from './archive.ts';
import { MOST } from '../limits.ts';
import { SCHEDULE_HEAD } from './pack.ts';
import { countRows, writeRows, type RowCounts } from './rows.ts';

/** Bounds of an archive of one schedule, in bytes as it is unpacked. */
const LIMITS = { whole: 2 * 2 ** 30, entry: 96 * 2 ** 20, entries: 25_000 } as const;

/** The largest text that a schedule is written in, in bytes. */
const LARGEST_SCHEDULE = 48 * 2 ** 20;

export interface UnpackJob {
  /** Place where the archive lies, and a folder to unpack it into; null where it is only looked at */
  path: string;
  into: string | null;
  /** The schedule it is compared with, as somebody sees it */
  with: { file: string; learnerId: string; personId: string } | null;
}

/** Content of an archive, all of it checked. What may be long is only counted here: it lies in the folder (`./rows.ts`). */
export interface Unpacked {
  made: string;
  learner: ScheduleArchive['learner'];
  calendars: ScheduleArchive['calendars'];
  plan: ScheduleArchive['plan'];
  /** The links that are followed, as they may be shown and as they are sealed */
  links: { masked: string; sealed: string }[];
  counts: RowCounts & { finished: number };
  compared: ArchiveLook['compared'];
}

/** Reads an archive of a schedule, whatever it is; gives what is in it, or why it cannot be used. Runs in a worker thread. */
export async function unpackSchedule(job: UnpackJob): Promise<Unpacked | { why: string }> {
  let open: OpenArchive | null = null;
  try {
    open = await openArchive(job.path, SCHEDULE_HEAD, LIMITS);
    const archive = parsed(await open.read(SCHEDULE_FILE, LARGEST_SCHEDULE));
    refuseLoose(archive);
    await open.check();
    if (job.into) {
      writeRows(job.into, archive);
      await copyParts(open, archive, job.into);
    }
    const { learner, calendars, plan, sources, layers } = archive;
    return {
      made: open.manifest.made,
      learner,
      calendars,
      plan,
      links: sources
        .filter((s) => s.kind === 'followedLink')
        .map(({ masked, sealed }) => ({ masked, sealed })),
      counts: { ...countRows(archive), finished: layers.filter((l) => l.finishedAt !== null).length },
      compared: job.with ? compared(archive, job.with) : NOTHING,
    };
  } catch (error) {
    if (error instanceof BadArchive) return { why: error.message };
    throw error;
  } finally {
    open?.close();
  }
}

const NOTHING = { onlyInArchive: 0, onlyNow: 0, titles: [] };

function parsed(text: Buffer): ScheduleArchive {
  const json = parseJson(text, 'What it says cannot be read.');
  const { success, data, error } = ScheduleArchive.safeParse(json);
  if (success) return data;
  throw new BadArchive(`Something in it is not right: ${error.issues[0]?.path.join('.') ?? ''}.`);
}

/** @throws BadArchive where something names what is not in it, or is longer than anybody could have made it here */
function refuseLoose({ calendars, sources, own, plan, ...hanging }: ScheduleArchive): void {
  if (own.some((o) => JSON.stringify(o).length > MOST.bodyBytes))
    throw new BadArchive('One of its items is too long.');
  const known = new Set(calendars.map((c) => c.ref));
  const named = [
    ...sources.flatMap((s) => [s.calendar, ...Object.values(s.sections)]),
    ...own.map((o) => o.calendar),
    ...Object.keys(plan?.travel ?? {}),
  ];
  if (known.size !== calendars.length || named.some((ref) => !known.has(ref)))
    throw new BadArchive('Something in it is in a calendar that it does not have.');
  const from = new Set(sources.map((s) => s.ref));
  const hand = new Set(own.map((o) => o.ref));
  const parts = [
    hanging.layers,
    hanging.notes,
    hanging.records,
    hanging.briefs,
    hanging.files,
    hanging.runUps,
  ];
  for (const { of } of parts.flat())
    if ('own' in of ? !hand.has(of.own) : !from.has(of.source))
      throw new BadArchive('Something in it is of an item that it does not have.');
}

async function copyParts(
  open: OpenArchive,
  { sources, files }: ScheduleArchive,
  into: string,
): Promise<void> {
  for (const part of [FEEDS, FILES]) mkdirSync(join(into, part), { recursive: true, mode: 0o700 });
  for (const name of new Set(sources.map((s) => s.feed)))
    writeFileSync(join(into, FEEDS, name), await open.read(`${FEEDS}/${name}`), { mode: 0o600 });
  for (const digest of new Set(files.map((f) => f.digest)))
    await open.copy(`${FILES}/${digest}`, join(into, FILES, digest));
}

/** Number of titles that are told of what differs. */
const TOLD = 8;

/** Gives what stands in an archive alone, and what in the schedule alone: by what was written by hand. */
function compared(
  { own }: ScheduleArchive,
  { file, learnerId, personId }: NonNullable<UnpackJob['with']>,
): ArchiveLook['compared'] {
  return readDatabase(file, (db) => {
    const kept = sightsIn(db)(personId, learnerId);
    const rows = db.$client
      .prepare<[string], { title: string; calendarId: string }>(
        `SELECT i.title, i.calendar_id AS calendarId FROM item i JOIN source s ON s.id = i.source_id
          WHERE i.learner_id = ? AND s.kind = 'handMade' AND i.gone_at IS NULL`,
      )
      .all(learnerId)
      .filter((row) => !kept.has(row.calendarId));
    const now = counted(rows.map((row) => row.title));
    const then = counted(own.map((o) => o.item.title));
    const onlyThen = [...then]
      .filter(([title, count]) => count > (now.get(title) ?? 0))
      .map(([title]) => title);
    const onlyNow = [...now]
      .filter(([title, count]) => count > (then.get(title) ?? 0))
      .map(([title]) => title);
    return {
      onlyInArchive: onlyThen.length,
      onlyNow: onlyNow.length,
      titles: [
        ...onlyThen.map((t) => `only in the archive: ${t}`),
        ...onlyNow.map((t) => `only now: ${t}`),
      ].slice(0, TOLD),
    };
  });
}

function counted(titles: readonly string[]): Map<string, number> {
  const found = new Map<string, number>();
  for (const title of titles) found.set(title, (found.get(title) ?? 0) + 1);
  return found;
}
