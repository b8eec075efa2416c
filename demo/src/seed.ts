import { isWork } from '@zephyrfield/core/item/kind';
import { instantIn } from '@zephyrfield/core/time/when';
import { UTC } from '@zephyrfield/core/time/zone';
import { layer, noticeSettings, user } from '@zephyrfield/server/db/schema';
import { DEFAULT_NOTICE_SETTINGS, type NoticeSettings } from '@zephyrfield/core/notify/settings';
import { advanceTo } from './advance.ts';
import type { Services } from '@zephyrfield/server/app';
import type { Db } from '@zephyrfield/server/db/open';
import { hashPassword } from '@zephyrfield/server/accounts/passwords';
import { putAccount } from '@zephyrfield/server/accounts/put-account';
import { DAY, HOUR } from '@zephyrfield/core/time/civil';
import type { CampusState } from '@zephyrfield/stand-ins/campus/state';
import type { DemoClock } from './clock.ts';
import { DEMO_PASSWORD, FOLLOWED, LEARNERS, LEFT_OPEN, MOVED_YESTERDAY, PEOPLE, emailOf } from './people.ts';
import { bringTogether } from './crew.ts';
import { writeNotes } from './notes.ts';
import { bringFamilies, furnishDesk } from './desk.ts';
import { planAhead } from './plan.ts';
import { DEMO_START, ZONE } from './term.ts';

/** Number of days before the demo each came. */
const JOINED: Readonly<Record<string, number>> = { maren: 40, juno: 36, anselm: 28 };

export interface SeedWorld {
  services: Services;
  db: Db;
  campus: CampusState;
  /** Place where the campus is served */
  origin: string;
  clock: DemoClock;
}

/**
 * Fills an empty installation with the demo world: people, learners, followed links, what is finished
 * already. The links are followed the day before and read again after two dates have moved, so that there is
 * news when the demo begins.
 */
export async function seed({ services, db, campus, origin, clock }: SeedWorld): Promise<void> {
  const { auth, people, gather, engine, plans } = services;
  clock.set(DEMO_START - 26 * HOUR);
  const now = clock.now();
  const restore = asTheyWere(campus);
  people.transaction(() => {
    for (const { id, name } of LEARNERS) people.addLearner({ id, name, zone: ZONE, createdAt: now });
  });
  const passwordHash = await hashPassword(DEMO_PASSWORD);
  for (const person of PEOPLE) {
    const id = await putAccount(auth, { name: person.name, email: emailOf(person), passwordHash });
    // Everybody has opened the link in their mail long ago.
    people.confirm(id, emailOf(person));
    people.transaction(() =>
      person.sees.forEach(([learnerId, access], position) =>
        people.join({ personId: id, learnerId, access, position, joinedAt: now - JOINED[person.id]! * DAY }),
      ),
    );
  }
  const sources: string[] = [];
  for (const { learner, path, as } of FOLLOWED)
    sources.push(
      (
        await gather.follow(learner, {
          address: addressOf(campus, origin, path),
          zone: ZONE,
          category: '',
          split: null,
          ...as,
        })
      ).source.id,
    );
  await bringTogether(services, (person) => people.byEmail(emailOf({ id: person }))!.id, clock);
  finishThePast(db, DEMO_START);
  planAhead(db, plans, 'juno', DEMO_START);
  const idOf = (person: string) => people.byEmail(emailOf({ id: person }))!.id;
  await bringFamilies(services, passwordHash, now);
  await inSilence(db, async () => {
    await furnishDesk(services, idOf('anselm'), now);
    await writeNotes(services, idOf, clock);
  });
  wantMail(db);
  // From here on people are told: of the dates that move now, and of what comes due until the demo begins.
  await engine.run();
  restore();
  clock.advance(HOUR);
  for (const id of sources) await gather.readSource(id);
  await advanceTo(DEMO_START, clock, engine);
}

/** Does something of which nobody is told: what happened weeks ago was told then. */
async function inSilence(db: Db, work: () => Promise<void>): Promise<void> {
  const all = { ...DEFAULT_NOTICE_SETTINGS.all, fromCrew: [] };
  for (const { id: personId } of db.select({ id: user.id }).from(user).all())
    db.insert(noticeSettings)
      .values({ personId, value: { ...DEFAULT_NOTICE_SETTINGS, all } })
      .run();
  await work();
  db.delete(noticeSettings).run();
}

/** A feed's link, with its secret where it has one. */
function addressOf(campus: CampusState, origin: string, path: string): string {
  const key = campus.find(path)?.feed.key;
  return `${origin}/feeds/${path}.ics${key ? `?key=${key}` : ''}`;
}

/** Puts the dates that moved yesterday back to where they were; gives what moves them again. */
function asTheyWere(campus: CampusState): () => void {
  const undo = MOVED_YESTERDAY.map(({ path, uid, was }) => {
    const state = campus.find(path)!;
    const entry = state.feed.entries.find((e) => e.uid === uid)!;
    const is = structuredClone(entry);
    campus.change(state, () => Object.assign(entry, was));
    return () => campus.change(state, () => Object.assign(entry, is));
  });
  return () => undo.forEach((each) => each());
}

/**
 * What the people of the demo want to be told: Juno by browser and mail, Maren her briefs by mail, Anselm
 * what is past due.
 */
function wantMail(db: Db): void {
  const { all } = DEFAULT_NOTICE_SETTINGS;
  const wants: Record<string, Partial<NoticeSettings>> = {
    juno: {
      all: { ...all, dueSoon: ['app', 'browser', 'mail'] },
      sheets: { morning: 7 * 60, evening: 17 * 60, week: 17 * 60 },
    },
    maren: {
      all: { ...all, dueSoon: [], handedIn: ['app', 'mail'], sheet: ['app', 'mail'] },
      sheets: { morning: null, evening: 20 * 60 + 30, week: 18 * 60 },
    },
    anselm: {
      all: { ...all, dueSoon: [], newWork: [], moved: ['app'], pastDue: ['app', 'mail'], sheet: [] },
      sheets: { morning: null, evening: null, week: null },
    },
  };
  for (const [id, want] of Object.entries(wants)) {
    const person = db.query.user.findFirst({ where: (u, { eq }) => eq(u.email, emailOf({ id })) }).sync();
    if (person)
      db.insert(noticeSettings)
        .values({ personId: person.id, value: { ...DEFAULT_NOTICE_SETTINGS, ...want } })
        .run();
  }
}

/** Ticks off what lies before the demo's beginning, an hour or two before it was due. */
function finishThePast(db: Db, now: number): void {
  const juno = db.query.user.findFirst({ where: (u, { eq }) => eq(u.email, 'juno@skerrow.example') }).sync();
  const rows = db.query.occurrence.findMany().sync();
  const uids = new Map(
    db.query.item
      .findMany({ columns: { id: true, uid: true } })
      .sync()
      .map((i) => [i.id, i.uid]),
  );
  db.transaction((tx) => {
    for (const row of rows) {
      const due = row.due && instantIn(row.due, UTC);
      if (
        !isWork(row.kind) ||
        due === null ||
        due >= now - 16 * 3_600_000 ||
        row.doneInCourse ||
        LEFT_OPEN.includes(uids.get(row.itemId) ?? '')
      )
        continue;
      const finishedAt = due - 3_600_000 * (1 + (row.title.length % 5));
      tx.insert(layer)
        .values({
          itemId: row.itemId,
          recurrenceId: row.recurrenceId,
          finishedAt,
          finishedBy: juno?.id ?? null,
          version: 1,
          updatedAt: finishedAt,
        })
        .run();
    }
  });
}
