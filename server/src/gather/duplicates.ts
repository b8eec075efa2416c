import { pairOf, settleDuplicates, type Candidate, type Verdicts } from '@zephyrfield/core/gather/duplicates';
import type { CalendarKind } from '@zephyrfield/core/item/kind';
import type { When } from '@zephyrfield/core/time/when';
import type { Zone } from '@zephyrfield/core/time/zone';
import { layerCarrier } from '../db/layers.ts';
import type { HandedOver } from '../db/schema/columns.ts';
import type { Db } from '../db/open.ts';

interface Row {
  id: string;
  uid: string;
  source_id: string;
  title: string;
  course: string | null;
  calendar_kind: CalendarKind;
  calendar_name: string;
  created_at: number;
  same_as: string | null;
  own: number;
  repeats: number;
  start: string | null;
  due: string | null;
}

/** Where the same thing may stand twice: reading and writing which item is shown as part of which. */
export function duplicateStore(db: Db) {
  const { $client: sqlite } = db;
  const manySources = sqlite.prepare<[string], { n: number }>(
    'SELECT count(*) AS n FROM source WHERE learner_id = ?',
  );
  // Ids travel as one JSON text, so that ten and ten thousand take one statement.
  const near = sqlite.prepare<{ ids: string; learner: string }, { a: string; b: string }>(`
    WITH given AS MATERIALIZED (SELECT item.* FROM json_each(@ids) JOIN item ON item.id = json_each.value)
    SELECT a.id AS a, b.id AS b FROM given a JOIN source s ON s.learner_id = @learner
      AND s.id <> a.source_id JOIN item b ON b.source_id = s.id AND b.uid = a.uid WHERE b.gone_at IS NULL
    UNION SELECT a.id, b.id FROM given a JOIN item b ON b.learner_id = @learner
      AND b.duplicate_key = a.duplicate_key AND b.source_id <> a.source_id WHERE b.gone_at IS NULL
    UNION SELECT a.id, b.id FROM given a JOIN item b ON b.same_as = a.id
    UNION SELECT a.id, v.b FROM given a JOIN verdict v ON v.a = a.id AND v.same
    UNION SELECT a.id, v.a FROM given a JOIN verdict v ON v.b = a.id AND v.same
    UNION SELECT id, same_as FROM given WHERE same_as IS NOT NULL`);
  // Beside `min`, the other columns are of the row that has it (SQLite's "bare columns"): an item's dates are gone
  // through once, and not once for each of them.
  const columns = (
    firstDate: string,
  ) => `SELECT i.id, i.uid, i.source_id, i.title, i.course, c.kind AS calendar_kind,
      c.name AS calendar_name, i.created_at, i.same_as, o.start, o.due, ${firstDate} AS first_date,
      EXISTS (SELECT 1 FROM source s WHERE s.id = i.source_id AND s.kind = 'handMade') AS own,
      EXISTS (SELECT 1 FROM occurrence n WHERE n.item_id = i.id LIMIT 1 OFFSET 1) AS repeats`;
  const rows = sqlite.prepare<[string], Row>(`${columns('min(o.from_ms)')}
    FROM json_each(?) JOIN item i ON i.id = json_each.value JOIN calendar c ON c.id = i.calendar_id
    LEFT JOIN occurrence o ON o.item_id = i.id
    WHERE i.gone_at IS NULL GROUP BY i.id`);
  // In the order of the index, so that it ends after so many.
  const standingOnce = sqlite.prepare<{ learner: string; from: number; to: number; most: number }, Row>(`
    ${columns('o.from_ms')}
    FROM occurrence o JOIN item i ON i.id = o.item_id JOIN calendar c ON c.id = i.calendar_id
    WHERE o.learner_id = @learner AND o.from_ms BETWEEN @from AND @to AND o.recurrence_id = '' AND o.duplicate = 0
    ORDER BY o.from_ms LIMIT @most`);
  const linked = sqlite.prepare<[string], { id: string; same_as: string }>(
    `SELECT item.id, item.same_as FROM json_each(?) JOIN item ON item.id = json_each.value
      WHERE same_as IS NOT NULL`,
  );
  const verdicts = sqlite.prepare<[string], { a: string; b: string; same: number }>(
    'SELECT a, b, same FROM json_each(?) JOIN verdict ON a = json_each.value',
  );
  const setSame = sqlite.prepare<[string | null, string]>('UPDATE item SET same_as = ? WHERE id = ?');
  const { handOver, giveBack } = layerCarrier(db);
  const head = sqlite.prepare<[string], { id: string; calendarId: string; sameAs: string | null }>(
    'SELECT id, calendar_id AS calendarId, same_as AS sameAs FROM item WHERE id = ?',
  );
  const partsOf = sqlite.prepare<[string], { id: string; sameAs: string }>(
    'SELECT t.id, t.same_as AS sameAs FROM item i JOIN item t ON t.same_as = i.id WHERE i.source_id = ?',
  );
  const hasVerdict = sqlite.prepare<[string], unknown>(
    'SELECT 1 FROM json_each(?) JOIN verdict ON a = json_each.value OR b = json_each.value LIMIT 1',
  );
  const putVerdict = sqlite.prepare<[string, string, number]>(
    "INSERT INTO verdict (a, b, same) VALUES (?, ?, ?) ON CONFLICT DO UPDATE SET same = excluded.same, carried = '[]'",
  );
  const setCarried = sqlite.prepare<[string, string, string]>(
    'UPDATE verdict SET carried = ? WHERE a = ? AND b = ?',
  );
  const carried = sqlite
    .prepare<[string, string], string>('SELECT carried FROM verdict WHERE a = ? AND b = ?')
    .pluck();
  const dropVerdict = sqlite.prepare<[string, string]>('DELETE FROM verdict WHERE a = ? AND b = ?');
  const json = (ids: Iterable<string>) => JSON.stringify([...ids]);
  return {
    /** Tells whether any of these may stand twice at all: of one feed alone, only where somebody has said so */
    mayStandTwice: (learnerId: string, ids: Iterable<string>) =>
      manySources.get(learnerId)!.n > 1 || hasVerdict.get(json(ids)) !== undefined,
    near: (learnerId: string, ids: Iterable<string>) => near.all({ ids: json(ids), learner: learnerId }),
    candidates: (ids: Iterable<string>) => rows.all(json(ids)).map(candidate),
    linked: (ids: Iterable<string>) => linked.all(json(ids)),
    /** Gives what stands once in a learner's schedule and begins or is due in a span of time, the soonest first */
    standingOnce: (learner: string, from: number, to: number, most: number) =>
      standingOnce.all({ learner, from, to, most }).map(candidate),
    verdicts: (ids: Iterable<string>): Verdicts =>
      new Map(verdicts.all(json(ids)).map(({ a, b, same }) => [pairOf(a, b), same === 1])),
    setSame: (id: string, sameAs: string | null) => setSame.run(sameAs, id),
    /** Own layers go along to where a thing is now shown, unless there is one already */
    handOver,
    head: (id: string) => head.get(id),
    /** Items of other sources that are shown as part of a source's items */
    partsOf: (sourceId: string) => partsOf.all(sourceId),
    /** Keeps what a person says of two items; null: nothing, as they are found */
    setVerdict(a: string, b: string, same: boolean | null) {
      const [x, y] = inOrder(a, b);
      if (same === null) dropVerdict.run(x, y);
      else putVerdict.run(x, y, Number(same));
    },
    /** Keeps what went along when two were joined, so that it can be given back */
    setCarried: (a: string, b: string, all: readonly HandedOver[]) =>
      setCarried.run(JSON.stringify(all), ...inOrder(a, b)),
    carried: (a: string, b: string) => JSON.parse(carried.get(...inOrder(a, b)) ?? '[]') as HandedOver[],
    giveBack,
  };
}
export type DuplicateStore = ReturnType<typeof duplicateStore>;

const inOrder = (a: string, b: string): [string, string] => (a < b ? [a, b] : [b, a]);

const when = (text: string | null) => (text === null ? null : (JSON.parse(text) as When));

const candidate = (r: Row): Candidate => ({
  id: r.id,
  uid: r.uid,
  sourceId: r.source_id,
  title: r.title,
  when: when(r.due) ?? when(r.start),
  course: r.course ?? (r.calendar_kind === 'course' ? r.calendar_name : null),
  calendar: r.calendar_kind,
  own: r.own === 1,
  repeats: r.repeats === 1,
  createdAt: r.created_at,
  sameAs: r.same_as,
});

/**
 * Looks again at which items are the same thing, after some of a learner's have changed, come or gone. What
 * stands twice is shown once; own layers are on the one that is shown. To be called inside a transaction.
 * @returns what went along from one to another
 */
export function settleSame(
  store: DuplicateStore,
  learnerId: string,
  itemIds: readonly string[],
  zone: Zone,
): HandedOver[] {
  if (!store.mayStandTwice(learnerId, itemIds)) return [];
  const carried: HandedOver[] = [];
  const groups = new Groups();
  let edge = [...itemIds];
  // Duplicates of duplicates belong together; a chain ends after a few links, since each is of another
  // source.
  for (let step = 0; step < 8 && edge.length; step++) {
    const pairs = store.near(learnerId, edge);
    edge = pairs.map((p) => p.b).filter((id) => !groups.has(id));
    for (const { a, b } of pairs) groups.join(a, b);
  }
  const ids = groups.ids();
  const candidates = new Map(store.candidates(ids).map((c) => [c.id, c]));
  const was = new Map(store.linked(ids).map((r) => [r.id, r.same_as]));
  const verdicts = store.verdicts(ids);
  for (const group of groups.all()) {
    const alive = group.map((id) => candidates.get(id)).filter((c) => c !== undefined);
    for (const [id, primary] of settleDuplicates(alive, verdicts, zone)) {
      const before = was.get(id) ?? null;
      if (primary !== before) store.setSame(id, primary);
      const wentTo = (from: string, to: string) => {
        for (const each of store.handOver(from, to)) carried.push(each);
      };
      if (primary !== null) wentTo(id, primary);
      // Its former place is gone from its feed: what was noted there goes on here.
      else if (before !== null && !candidates.has(before)) wentTo(before, id);
    }
  }
  // What is gone is part of nothing.
  for (const id of was.keys()) if (!candidates.has(id)) store.setSame(id, null);
  return carried;
}

/** Sets of ids that hang together (union-find). */
class Groups {
  private readonly parent = new Map<string, string>();

  has = (id: string): boolean => this.parent.has(id);
  ids = (): string[] => [...this.parent.keys()];

  join(a: string, b: string): void {
    this.parent.set(this.root(a), this.root(b));
  }

  all(): string[][] {
    const sets = new Map<string, string[]>();
    for (const id of this.parent.keys()) {
      const root = this.root(id);
      const set = sets.get(root);
      if (set) set.push(id);
      else sets.set(root, [id]);
    }
    return [...sets.values()];
  }

  private root(id: string): string {
    let at = id;
    for (let up = this.parent.get(at); up !== undefined && up !== at; up = this.parent.get(at)) {
      this.parent.set(at, this.parent.get(up) ?? up);
      at = up;
    }
    if (!this.parent.has(at)) this.parent.set(at, at);
    return at;
  }
}
