import { planAll, planner } from '@zephyrfield/core/plan/planner';
import { makeQuestion } from './question.ts';
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
import { sightsIn } from '@zephyrfield/server/people/sights';
import { peopleStore } from '@zephyrfield/server/people/store';
import ICAL from 'ical.js';
import { makeFeed } from './feed.ts';
import { howMany, judge, type Figure } from './judge.ts';

const NOW = Date.parse('2026-10-06T15:10:00Z');
const SPAN = horizon(NOW);
const migrations = fileURLToPath(new URL('../migrations', import.meta.url));
const rows: Figure[] = [];
/** Entries of a long feed, and how often it is read. */
const LONG = howMany(10_000, 500);
const TURNS = howMany(8, 2);

const time = (work: () => void): number => {
  globalThis.gc?.();
  const began = performance.now();
  work();
  return performance.now() - began;
};
const median = (list: number[]) => list.sort((a, b) => a - b)[Math.floor(list.length / 2)]!;

/** A database in a folder of its own, with one learner. */
function world() {
  const folder = mkdtempSync(join(tmpdir(), 'zephyrfield-bench-'));
  const db = openDatabase(join(folder, 'bench.sqlite'), migrations);
  const people = peopleStore(db);
  const store = gatherStore(db);
  const calendars = calendarStore(db);
  const addLearner = (id: string) =>
    people.addLearner({ id, name: id, zone: 'Europe/Dublin', createdAt: NOW });
  const addSource = (id: string, learnerId = 'l') => {
    calendars.add({
      id,
      learnerId,
      name: id,
      kind: 'course',
      colour: 'rust',
      flag: { shape: 'square', pattern: 'plain', letters: 'X' },
      zone: 'Europe/Dublin',
      position: 1,
      createdAt: NOW,
    });
    store.add({
      id,
      learnerId,
      calendarId: id,
      kind: 'followedLink',
      addressSealed: id,
      addressMasked: id,
      addressDigest: id,
      createdAt: NOW,
    });
  };
  /** A reading whole: cut, parse what differs, normalise, compare, store. */
  const before = new Map<string, { context: string; total: number }>();
  const reading = (id: string, bytes: Uint8Array, first: boolean, learnerId = 'l') => {
    const last = before.get(id);
    const known =
      last && !first ? { ...last, openings: [], ofDeadlines: false, ...store.known(id) } : undefined;
    const result = readBytes({ bytes, zone: 'Europe/Dublin', as: { calendar: 'course' }, ...SPAN, known });
    before.set(id, { context: result.context, total: result.total });
    const options = {
      now: NOW,
      zone: UTC,
      horizon: SPAN,
      believed: first,
      quiet: first,
      calendarOf: () => id,
    };
    const steps = applyReading(store, { id, learnerId, horizonTo: first ? 0 : SPAN.to }, result, options);
    for (;;) {
      const step = store.transaction(() => steps.next());
      if (step.done) return step.value;
    }
  };
  addLearner('l');
  return {
    db,
    store,
    addLearner,
    addSource,
    reading,
    items: itemStore(db, sightsIn(db)),
    close: () => (db.$client.close(), rmSync(folder, { recursive: true, force: true })),
  };
}

function readings(): void {
  const text = makeFeed(LONG);
  const bytes = (feed: string) => new TextEncoder().encode(feed);
  const whole = bytes(text);
  const noise = bytes(makeFeed(LONG, { stamp: '20260801T120000Z', shuffle: true }));
  const changed = bytes(makeFeed(LONG, { changed: 10 }));
  // Taken in turns, so that a machine that is busy for a while is so for all of them; the first turn only
  // warms up.
  const taken = {
    reference: [] as number[],
    first: [] as number[],
    noise: [] as number[],
    few: [] as number[],
  };
  const expect = (applied: { added: number; changed: number; gone: number }, changes: number) => {
    if (applied.changed !== changes || applied.added + applied.gone > 0)
      throw new Error(`${changes} changes were taken for ${JSON.stringify(applied)}`);
  };
  for (let turn = 0; turn < TURNS; turn++) {
    const w = world();
    w.addSource('s');
    taken.reference.push(time(() => void ICAL.parse(text)));
    taken.first.push(time(() => void w.reading('s', whole, true)));
    taken.noise.push(time(() => expect(w.reading('s', noise, false), 0)));
    taken.few.push(time(() => expect(w.reading('s', changed, false), 10)));
    taken.reference.push(time(() => void ICAL.parse(text)));
    taken.few.push(time(() => expect(w.reading('s', whole, false), 10)));
    taken.noise.push(time(() => expect(w.reading('s', noise, false), 0)));
    w.close();
    if (turn === 0) for (const list of Object.values(taken)) list.length = 0;
  }
  const reference = median(taken.reference);
  console.log(
    `reference: ICAL.parse of 10,000 events, ${Math.round(text.length / 1024)} KB: ${reference.toFixed(0)} ms`,
  );
  const row = (what: string, list: number[], budget: number) =>
    rows.push({ what, measured: median(list) / reference, budget, unit: '× ICAL.parse' });
  row('first reading of 10,000 events, whole', taken.first, 3);
  row('reading again, only order and DTSTAMPs differ', taken.noise, 0.25);
  row('reading again, 10 of 10,000 changed', taken.few, 0.25);
}

/**
 * p95 of a month over twelve calendars of one learner, with so many items stored in all, the rest of them
 * other learners'.
 */
function month(items: number): number {
  const w = world();
  // No two alike: what stands in two calendars is shown once.
  const each = Array.from({ length: 12 }, (_, c) =>
    new TextEncoder().encode(makeFeed(LONG / 12, { of: `Sheet${c}x` })),
  );
  for (let l = 0; l * LONG < items; l++) {
    if (l) w.addLearner(`l${l}`);
    for (let c = 0; c < 12; c++) {
      w.addSource(`${l}-${c}`, l ? `l${l}` : 'l');
      w.reading(`${l}-${c}`, each[c]!, true, l ? `l${l}` : 'l');
    }
  }
  const from = Date.parse('2026-10-01T00:00:00Z');
  // One after the other as requests come; the collector runs when it wants to, as in the server.
  const one = () => {
    const began = performance.now();
    w.items.between('l', 'p', from, from + 31 * 86_400_000);
    return performance.now() - began;
  };
  for (let i = 0; i < 20; i++) one();
  const list = Array.from({ length: 300 }, one).sort((a, b) => a - b);
  w.close();
  return list[Math.floor(list.length * 0.95)]!;
}

/** How long the first plan takes, and the last one. */
function plans(): void {
  const question = makeQuestion(howMany(200, 20), 120);
  const list = Array.from({ length: 9 }, () => {
    const began = performance.now();
    planner(question).next();
    return performance.now() - began;
  });
  rows.push({
    what: 'run-ups: 200 pieces of work over 120 days, first plan',
    measured: median(list),
    budget: 300,
    unit: 'ms',
  });
  const began = performance.now();
  planAll(question);
  rows.push({ what: 'the same, all of it', measured: performance.now() - began, budget: 3000, unit: 'ms' });
}

readings();
plans();
const [small, large] = [month(howMany(10_000, 500)), month(howMany(100_000, 1_000))];
rows.push({
  what: 'a month over 12 calendars of one learner, 100,000 items stored, p95',
  measured: large,
  budget: 10,
  unit: 'ms',
});
rows.push({ what: 'the same beside 10,000 items stored', measured: large / small, budget: 1.5, unit: '×' });

console.log('\nmeasured ÷ budget');
judge(rows);
