import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { UTC } from '@zephyrfield/core/time/zone';
import { calendarStore } from '@zephyrfield/server/calendars/store';
import { openDatabase } from '@zephyrfield/server/db/open';
import { applyReading } from '@zephyrfield/server/gather/apply';
import { horizon } from '@zephyrfield/server/gather/horizon';
import { readBytes } from '@zephyrfield/server/gather/read-bytes';
import { gatherStore } from '@zephyrfield/server/gather/store';
import { itemStore } from '@zephyrfield/server/items/store';
import { peopleStore } from '@zephyrfield/server/people/store';
import ICAL from 'ical.js';
import { makeFeed } from './feed.ts';

const NOW = Date.parse('2026-10-06T15:10:00Z');
const SPAN = horizon(NOW);
const migrations = fileURLToPath(new URL('../migrations', import.meta.url));
const rows: { what: string; measured: number; budget: number; unit: string }[] = [];

const time = (work: () => void): number => {
  globalThis.gc?.();
  const began = performance.now();
  work();
  return performance.now() - began;
};
const median = (list: number[]) => list.sort((a, b) => a - b)[Math.floor(list.length / 2)]!;
const times = (n: number, work: () => void) => median(Array.from({ length: n }, () => time(work)));

/** A database in a folder of its own, with one learner. */
function world() {
  const folder = mkdtempSync(join(tmpdir(), 'zephyrfield-bench-'));
  const db = openDatabase(join(folder, 'bench.sqlite'), migrations);
  const people = peopleStore(db);
  const store = gatherStore(db);
  const calendars = calendarStore(db);
  const addLearner = (id: string) => people.addLearner({ id, name: id, zone: 'Europe/Dublin', createdAt: NOW });
  const addSource = (id: string, learnerId = 'l') => {
    calendars.add({ id, learnerId, name: id, sort: 'course', colour: 'rust', flag: { shape: 'square', pattern: 'plain', letters: 'X' }, zone: 'Europe/Dublin', position: 1, createdAt: NOW });
    store.add({ id, learnerId, calendarId: id, kind: 'followedLink', addressSealed: id, addressMasked: id, addressDigest: id, createdAt: NOW });
  };
  /** A reading whole: cut, parse what differs, normalise, compare, store. */
  const before = new Map<string, { context: string; total: number }>();
  const reading = (id: string, bytes: Uint8Array, first: boolean, learnerId = 'l') => {
    const last = before.get(id);
    const known = last && !first ? { ...last, openings: [], ...store.known(id) } : undefined;
    const result = readBytes({ bytes, zone: 'Europe/Dublin', as: { calendar: 'course' }, ...SPAN, known });
    before.set(id, { context: result.context, total: result.total });
    const options = { now: NOW, zone: UTC, horizon: SPAN, believed: first, quiet: first, calendarOf: () => id };
    return store.transaction(() => applyReading(store, { id, learnerId, horizonTo: first ? 0 : SPAN.to }, result, options));
  };
  addLearner('l');
  return { db, store, addLearner, addSource, reading, items: itemStore(db), close: () => (db.$client.close(), rmSync(folder, { recursive: true, force: true })) };
}

function readings(): void {
  const text = makeFeed(10_000);
  const bytes = (feed: string) => new TextEncoder().encode(feed);
  const whole = bytes(text);
  const noise = bytes(makeFeed(10_000, { stamp: '20260801T120000Z', shuffle: true }));
  const changed = bytes(makeFeed(10_000, { changed: 10 }));
  ICAL.parse(text);
  const reference = times(5, () => void ICAL.parse(text));
  console.log(`reference: ICAL.parse of 10,000 events, ${Math.round(text.length / 1024)} KB: ${reference.toFixed(0)} ms`);
  const firsts: number[] = [];
  for (let i = 0; i < 3; i++) {
    const w = world();
    w.addSource('s');
    firsts.push(time(() => void w.reading('s', whole, true)));
    if (i === 2) {
      const again = times(3, () => {
        const applied = w.reading('s', noise, false);
        if (applied.added + applied.changed + applied.gone) throw new Error('noise was taken for change');
      });
      rows.push({ what: 'reading again, only order and DTSTAMPs differ', measured: again / reference, budget: 0.25, unit: '× ICAL.parse' });
      const few = time(() => {
        const applied = w.reading('s', changed, false);
        if (applied.changed !== 10) throw new Error(`ten changes were taken for ${applied.changed}`);
      });
      rows.push({ what: 'reading again, 10 of 10,000 changed', measured: few / reference, budget: 0.25, unit: '× ICAL.parse' });
    }
    w.close();
  }
  rows.unshift({ what: 'first reading of 10,000 events, whole', measured: median(firsts) / reference, budget: 3, unit: '× ICAL.parse' });
}

/** p95 of a month over twelve calendars of one learner, with so many items stored in all, the rest of them other learners'. */
function month(items: number): number {
  const w = world();
  const each = new TextEncoder().encode(makeFeed(10_000 / 12));
  for (let l = 0; l * 10_000 < items; l++) {
    if (l) w.addLearner(`l${l}`);
    for (let c = 0; c < 12; c++) {
      w.addSource(`${l}-${c}`, l ? `l${l}` : 'l');
      w.reading(`${l}-${c}`, each, true, l ? `l${l}` : 'l');
    }
  }
  const from = Date.parse('2026-10-01T00:00:00Z');
  const list = Array.from({ length: 100 }, () => time(() => void w.items.between('l', from, from + 31 * 86_400_000))).sort((a, b) => a - b);
  w.close();
  return list[Math.floor(list.length * 0.95)]!;
}

readings();
const [small, large] = [month(10_000), month(100_000)];
rows.push({ what: 'a month over 12 calendars of one learner, 100,000 items stored, p95', measured: large, budget: 10, unit: 'ms' });
rows.push({ what: 'the same beside 10,000 items stored', measured: large / small, budget: 1.5, unit: '×' });

console.log('\nmeasured ÷ budget');
for (const { what, measured, budget, unit } of rows) {
  console.log(`${(measured / budget).toFixed(2).padStart(6)}  ${measured <= budget ? 'met ' : 'OVER'}  ${what}: ${measured.toFixed(2)} ${unit}, budget ${budget}`);
}
