import { isWork } from '@zephyrfield/core/item/sort';
import { instantIn } from '@zephyrfield/core/time/when';
import { UTC } from '@zephyrfield/core/time/zone';
import { layer } from '@zephyrfield/server/db/schema';
import type { AppParts } from '@zephyrfield/server/app';
import type { Db } from '@zephyrfield/server/db/open';
import { DEMO_PASSWORD, FOLLOWED, LEARNERS, LEFT_OPEN, PEOPLE, emailOf } from './people.ts';
import { ZONE } from './term.ts';

/** Fills an empty installation with the demo world: people, learners, followed links, and what is finished already. */
export async function seed({ auth, people, gather }: AppParts, db: Db, campus: string, now: number): Promise<void> {
  people.transaction(() => {
    for (const { id, name } of LEARNERS) people.addLearner({ id, name, zone: ZONE, createdAt: now });
  });
  for (const person of PEOPLE) {
    await auth.api.signUpEmail({ body: { name: person.name, email: emailOf(person), password: DEMO_PASSWORD } });
    const { id } = people.byEmail(emailOf(person))!;
    people.transaction(() => person.sees.forEach(([learnerId, access], position) => people.join({ personId: id, learnerId, access, position })));
  }
  for (const { learner, path, as } of FOLLOWED) await gather.follow(learner, { address: `${campus}/feeds/${path}.ics`, zone: ZONE, ...as });
  finishThePast(db, now);
}

/** Ticks off what lies before the demo's beginning, an hour or two before it was due. */
function finishThePast(db: Db, now: number): void {
  const juno = db.query.user.findFirst({ where: (u, { eq }) => eq(u.email, 'juno@skerrow.example') }).sync();
  const rows = db.query.occurrence.findMany().sync();
  const uids = new Map(db.query.item.findMany({ columns: { id: true, uid: true } }).sync().map((i) => [i.id, i.uid])); // prettier-ignore
  db.transaction((tx) => {
    for (const row of rows) {
      const due = row.due && instantIn(row.due, UTC);
      if (!isWork(row.sort) || due === null || due >= now - 16 * 3_600_000 || LEFT_OPEN.includes(uids.get(row.itemId) ?? '')) continue;
      const finishedAt = due - 3_600_000 * (1 + (row.title.length % 5));
      tx.insert(layer)
        .values({ itemId: row.itemId, key: row.key, finishedAt, finishedBy: juno?.id ?? null, version: 1, updatedAt: finishedAt })
        .run();
    }
  });
}
