import { readFileSync } from 'node:fs';
import {
  differ,
  isSuspicious,
  upcoming,
  type Added,
  type Differences,
  type Moved,
  type Reworded,
  type Snapshot,
  withRest,
} from '@zephyrfield/core/gather/differences';
import { entriesOf, expandEntry } from '@zephyrfield/core/gather/entries';
import { snapshotOf } from '@zephyrfield/core/gather/snapshot';
import type { CutOff } from '@zephyrfield/core/ical/cut';
import { readFeed } from '@zephyrfield/core/ical/reading';
import { formatInstant, parseInstant } from '@zephyrfield/core/time/civil';
import { instantIn, type When } from '@zephyrfield/core/time/when';
import { ianaZone, type Zone } from '@zephyrfield/core/time/zone';
import { HOLD, horizon } from '../gather/horizon.ts';
import { whyUnread } from './why.ts';
import { answerVersion } from './answer-version.ts';

answerVersion();

interface Reading {
  snapshots: Snapshot[];
  warnings: string[];
  from: number;
  to: number;
  cutOff: CutOff | null;
}

const USAGE =
  'usage: npm run --silent compare -- --zone ZONE --as-of INSTANT V1.ics --as-of INSTANT V2.ics …';

/**
 * `npm run --silent compare`: what changed between readings of one feed, step by step, judged as the server
 * judges it.
 */
function main(argv: string[]): number {
  let zone: Zone | undefined;
  const steps: { asOf: number; file: string }[] = [];
  let asOf = NaN;
  for (let i = 0; i < argv.length; i++) {
    if (argv[i] === '--zone') zone = ianaZone(argv[++i] ?? '');
    else if (argv[i] === '--as-of') asOf = parseInstant(argv[++i] ?? '');
    else if (argv[i]!.startsWith('--')) return usage(`${argv[i]} is not known`);
    else {
      if (Number.isNaN(asOf)) return usage('each file wants an --as-of INSTANT before it');
      steps.push({ asOf, file: argv[i]! });
      asOf = NaN;
    }
  }
  if (!zone) return usage('--zone wants a time zone’s name, such as Europe/Dublin');
  if (!steps.length) return usage('no file named');
  return compareAll(steps, zone);
}

function compareAll(steps: { asOf: number; file: string }[], zone: Zone): number {
  let applied = null as Reading | null;
  let held = null as { since: number; times: number } | null;
  const output = [];
  for (const { asOf, file } of steps) {
    let reading: Reading;
    try {
      reading = read(file, asOf, zone);
    } catch (error) {
      const reason = whyUnread(error);
      if (!applied) {
        console.error(`${file}: ${reason}`);
        return 1;
      }
      // A reading that fails changes nothing and is told as trouble.
      output.push({ ...EMPTY, heldBack: true, warnings: [reason] });
      continue;
    }
    if (!applied) {
      applied = reading;
      continue;
    }
    const options = {
      asOf,
      viewer: zone,
      from: Math.max(applied.from, reading.from),
      to: Math.min(applied.to, reading.to),
    };
    reading.snapshots = withRest(applied.snapshots, reading.snapshots, reading.cutOff);
    const differences = differ(applied.snapshots, reading.snapshots, options);
    const suspicious = isSuspicious(differences, upcoming(applied.snapshots, options));
    held = suspicious ? { since: held?.since ?? asOf, times: (held?.times ?? 0) + 1 } : null;
    if (held && !(held.times >= HOLD.readings && asOf - held.since >= HOLD.ms)) {
      output.push({
        ...EMPTY,
        heldBack: true,
        warnings: [
          ...reading.warnings,
          `${differences.removed.length} entries are missing at once; what was there is kept until that is confirmed`,
        ],
      });
      continue;
    }
    held = null;
    output.push(told(differences, reading, zone));
    applied = { ...reading, snapshots: keepPast(applied, reading, differences) };
  }
  process.stdout.write(JSON.stringify({ steps: output }) + '\n');
  return 0;
}

const EMPTY = { added: [], moved: [], reworded: [], calledOff: [], removed: [], rolledOff: [], reissued: [] };

/** Gives what rolled off stays known, as the server keeps it. */
function keepPast(before: Reading, after: Reading, { rolledOff }: Differences): Snapshot[] {
  const there = new Set(after.snapshots.map((s) => s.uid));
  const kept = new Set(rolledOff.map((r) => r.uid));
  return [...after.snapshots, ...before.snapshots.filter((s) => kept.has(s.uid) && !there.has(s.uid))];
}

function read(file: string, asOf: number, zone: Zone): Reading {
  const { from, to } = horizon(asOf);
  const { items, zones, warnings, cutOff } = readFeed(readFileSync(file), { fallbackZone: zone });
  const snapshots = entriesOf({ items }, { calendar: 'course' }).map((entry) =>
    snapshotOf(entry, expandEntry(entry, { from, to, zone, zones, as: { calendar: 'course' } })),
  );
  return {
    snapshots,
    cutOff,
    from,
    to,
    warnings: warnings.map((w) => (w.line ? `line ${w.line}: ${w.message}` : w.message)),
  };
}

function told(d: Differences, reading: Reading, zone: Zone) {
  const text = (when: When) => (when.kind === 'date' ? when.date : formatInstant(instantIn(when, zone)));
  const key = (k: string | null) => k && (k.length === 19 ? text({ kind: 'floating', local: k }) : k);
  const plain = (list: Added[]) =>
    list.map((e) => ({ ...e, recurrenceId: key(e.recurrenceId), start: text(e.start) }));
  return {
    added: plain(d.added),
    moved: d.moved.map((m: Moved) => ({
      ...m,
      recurrenceId: key(m.recurrenceId),
      from: text(m.from),
      to: text(m.to),
    })),
    reworded: d.reworded.map((r: Reworded) => ({ ...r, recurrenceId: key(r.recurrenceId) })),
    calledOff: plain(d.calledOff),
    removed: plain(d.removed),
    rolledOff: plain(d.rolledOff),
    reissued: d.reissued,
    heldBack: false,
    warnings: reading.warnings,
  };
}

function usage(problem: string): number {
  console.error(`compare: ${problem}\n${USAGE}`);
  return 2;
}

process.exitCode = main(process.argv.slice(2));
