import { DEFAULT_PLAN } from '@zephyrfield/core/plan/evenings';
import { PATTERNS, type PlannedSitting } from '@zephyrfield/core/plan/run-up';
import { DEFAULT_LOADS } from '@zephyrfield/core/view/settings';
import { isWork } from '@zephyrfield/core/item/kind';
import type { Services } from '@zephyrfield/server/app';
import { layer } from '@zephyrfield/server/db/schema';
import type { Db } from '@zephyrfield/server/db/open';
import { and, eq } from 'drizzle-orm';

/** Time work takes Juno, as a multiple of what is usual, by the beginning of its calendar's name. */
const PACE: readonly (readonly [name: string, factor: number])[] = [
  ['Ceramics', 1.4],
  ['Statistics', 0.8],
  ['Norwegian', 1.15],
  ['Ocean', 1],
];
const ESSAY = 'Essay: a letter from the lighthouse';
const KEEL = 'Keel plan';

const sitting = (
  day: string,
  from: number,
  minutes: number,
  more: Partial<PlannedSitting> = {},
): PlannedSitting => ({
  key: day,
  day,
  from,
  minutes,
  state: 'planned',
  took: null,
  pinned: false,
  ...more,
});

/**
 * What Juno has planned: when she can work, a run-up under way with an evening that went by, how long the essay takes,
 * and how long the work of the term took her so far.
 */
export function planAhead(db: Db, plans: Services['plans'], learnerId: string, now: number): void {
  plans.writeSettings(learnerId, { ...DEFAULT_PLAN, mostADay: 150 }, 0, now);
  const rows = db.query.occurrence.findMany({ where: (o, { eq }) => eq(o.learnerId, learnerId) }).sync();
  const names = new Map(
    db.query.calendar
      .findMany()
      .sync()
      .map((c) => [c.id, c.name]),
  );
  const find = (title: string) => rows.find((o) => o.title === title);
  const keel = find(KEEL);
  if (keel)
    plans.put({
      itemId: keel.itemId,
      recurrenceId: keel.recurrenceId,
      minutes: 240,
      saidBy: 'own',
      firstDay: '2026-10-01',
      perDay: 1,
      polish: true,
      shortest: null,
      longest: null,
      parts: PATTERNS.project.parts,
      sittings: [
        sitting('2026-10-01', 1020, 50, { state: 'done', took: 65 }),
        sitting('2026-10-05', 990, 50),
        sitting('2026-10-06', 1035, 20),
        sitting('2026-10-08', 1020, 50),
        sitting('2026-10-10', 600, 50),
        sitting('2026-10-11', 900, 30),
      ],
      version: 1,
      updatedAt: now,
    });
  db.transaction((tx) => {
    for (const o of rows) {
      const name = names.get(o.calendarId) ?? '';
      const factor = PACE.find(([begins]) => name.startsWith(begins))?.[1];
      const said = isWork(o.kind) ? DEFAULT_LOADS[o.kind as keyof typeof DEFAULT_LOADS] : 0;
      if (!factor || !said) continue;
      // A little more, a little less: nobody takes the same time twice.
      const spent = Math.round((said * (factor + ((o.title.length % 5) - 2) * 0.06)) / 5) * 5;
      tx.update(layer)
        .set({ spent })
        .where(and(eq(layer.itemId, o.itemId), eq(layer.recurrenceId, o.recurrenceId), eq(layer.spent, 0)))
        .run();
    }
  });
  const essay = find(ESSAY);
  if (essay) {
    const { itemId, recurrenceId } = essay;
    db.insert(layer).values({ itemId, recurrenceId, estimate: 180, version: 1, updatedAt: now }).run();
  }
}
