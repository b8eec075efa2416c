import { setTimeout as setTimer } from 'node:timers/promises';
import { codeOf } from '../fault.ts';
import { placeOf } from '../http/problem.ts';
import type { Log } from '../log.ts';
import { sheetsBetween } from '@zephyrfield/core/notify/settings';
import { DAY } from '@zephyrfield/core/time/civil';
import type { Clock } from '../clock.ts';
import type { SheetMaker } from './sheets.ts';
import type { Collector } from './collect.ts';
import type { Recipient } from './recipient.ts';
import { inSlices } from './slices.ts';
import type { StillTrue } from './post.ts';
import type { NewDelivery, NotifyStore } from './store.ts';

interface EngineDeps {
  store: NotifyStore;
  collector: Collector;
  sheets: SheetMaker;
  clock: Clock;
  recipient(personId: string): Recipient | null;
  stillTrue: StillTrue;
  /** Brings back what was put off to now */
  returned(now: number): void;
  post: {
    form(now: number, stillTrue: StillTrue): Promise<void>;
    run(stillTrue: StillTrue, goesOn: () => boolean): Promise<boolean>;
  };
  /** Called for who has been told something */
  noticesChanged(personId: string): void;
  mailReady: boolean;
  log: Log;
}

const BATCH = 100;
/** At the latest so often is looked whether something is due: the clock may have been moved. */
const EVERY = 5_000;
const AT_LEAST = 50;
/** After a change, so long until it is looked at: several often come together. */
const SOON = 150;
const KEPT = 120 * DAY;
const TRY_AGAIN = DAY / 24;
/** At the stop, letters under way are waited for so long. */
const LAST_LETTERS = 3_000;

const pause = () => new Promise<void>((done) => setImmediate(done));

/**
 * Tells people. Each turn looks at who has something due, works out what in one transaction with how far that
 * person has then been told, and hands over what waits. What a crash cuts off is begun again from where it
 * stood, and what each delivery is told for keeps it from being there twice. Between one person and the next
 * others get a word in.
 */
export function notifyEngine({
  store,
  collector,
  sheets,
  clock,
  recipient,
  stillTrue,
  returned,
  post,
  noticesChanged,
  mailReady,
  log,
}: EngineDeps) {
  let running: Promise<void> | null = null;
  let again = false;
  let daily: NodeJS.Timeout | null = null;
  let next: NodeJS.Timeout | null = null;
  let soon: NodeJS.Timeout | null = null;
  let stopped = true;
  let stopping = false;
  let mailing: Promise<void> | null = null;
  let mailAgain = false;
  let failed = false;
  /** Whose schedule has changed, and could not be woken; null for everybody's */
  const missed = new Set<string | null>();

  /** Lists what would be mailed later and is said in the same mail, of all whom somebody looks after. */
  function ahead(rows: readonly NewDelivery[], who: Recipient, now: number, isSheet: boolean): NewDelivery[] {
    if (!rows.some((row) => row.channel === 'mail' && row.notBefore <= now)) return [];
    return sheets.learnersOf(who.personId).flatMap((id) => collector.mailsAhead(id, who, now, isSheet));
  }

  async function units(now: number): Promise<void> {
    for (;;) {
      const due = store.dueUnits(now, BATCH);
      const heard = new Set<string>();
      await inSlices(due, store.transaction, (unit) => {
        const who = recipient(unit.personId);
        if (!who) return void store.saveUnit({ ...unit, nextAt: now + DAY });
        let collected: ReturnType<Collector['collect']>;
        try {
          collected = collector.collect(unit, who, now);
        } catch (error) {
          // One schedule that cannot be read keeps nobody else from being told; nothing of it counts as told.
          log('working out reminders failed', { fault: placeOf(error) });
          return void store.saveUnit({ ...unit, nextAt: now + TRY_AGAIN });
        }
        const { rows, unit: next } = collected;
        rows.push(...ahead(rows, who, now, false));
        store.saveUnit(next);
        if (rows.filter((row) => store.add(row)).length) heard.add(unit.personId);
      });
      for (const personId of heard) noticesChanged(personId);
      if (due.length < BATCH) return;
    }
  }

  async function dueSheets(now: number): Promise<void> {
    for (;;) {
      const due = store.dueSheets(now, BATCH);
      for (const { personId, doneTo } of due) {
        const who = recipient(personId);
        const added = store.transaction(() => {
          const come = who
            ? sheetsBetween(who.noticeSettings.sheets, Math.max(doneTo, now - 2 * DAY), now, who.viewer)
            : [];
          // Of the same kind only the latest is of use.
          const latest = come.filter((b, i) => !come.slice(i + 1).some((c) => c.edition === b.edition));
          const rows = who ? latest.flatMap((b) => sheets.rows(who, b, now)) : [];
          if (who) rows.push(...ahead(rows, who, now, true));
          const next = who
            ? sheetsBetween(who.noticeSettings.sheets, now, now + 2 * DAY, who.viewer)[0]?.at
            : undefined;
          store.saveSheetClock(personId, { doneTo: Math.max(doneTo, now), nextAt: next ?? now + DAY });
          return rows.filter((row) => store.add(row)).length;
        });
        if (added) noticesChanged(personId);
        await pause();
      }
      if (due.length < BATCH) return;
    }
  }

  const rouse = (whose: string | null) => (whose === null ? store.wakeAll() : store.wake(whose));
  /** It follows a change that is saved: whatever is wrong here, the change must not be told as failed. */
  function tryToRouse(whose: string | null): void {
    try {
      rouse(whose);
    } catch (error) {
      missed.add(whose);
      log('reminders could not be woken; they are at the next turn', { code: codeOf(error) });
    }
  }

  async function turn(): Promise<void> {
    for (const whose of missed) {
      rouse(whose);
      missed.delete(whose);
    }
    // One moment for all of it, and letters are made only at its end: a sheet and the reminders that go with it are one mail,
    // however long a turn takes and whatever letter is on its way meanwhile.
    const now = clock.now();
    store.ensure(now);
    await units(now);
    await dueSheets(now);
    returned(now);
    await post.form(now, stillTrue);
    // It takes its own time: whatever the mail server does, notices in the app come when they are due.
    void mailOut();
  }

  /** Sends what there is to mail, one round at a time. */
  function mailOut(): Promise<void> {
    if (mailing) {
      mailAgain = true;
      return mailing;
    }
    mailing = (async () => {
      do {
        mailAgain = false;
        try {
          if (await post.run(stillTrue, () => !stopping)) mailAgain = true;
        } catch (error) {
          if (!stopping) log('sending mail failed', { fault: placeOf(error) });
        }
      } while (mailAgain && !stopping);
    })().finally(() => {
      mailing = null;
      if (!stopped) arm();
    });
    return mailing;
  }

  /** Sets the alarm for what comes next. */
  function arm(): void {
    if (stopped) return;
    if (next) clearTimeout(next);
    const wait = (store.nextAt(mailReady) ?? Infinity) - clock.now();
    next = setTimeout(() => void run(), failed ? EVERY : Math.min(EVERY, Math.max(AT_LEAST, wait))).unref();
  }

  /** One turn at a time; who asks during one is answered by the next. */
  function run(): Promise<void> {
    if (running) {
      again = true;
      return running;
    }
    running = (async () => {
      do {
        again = false;
        failed = false;
        try {
          await turn();
        } catch (error) {
          failed = true;
          if (!stopped || !/not open/.test(String(error)))
            log('delivering notices failed', { fault: placeOf(error) });
        }
      } while (again && !stopped);
    })().finally(() => {
      running = null;
      arm();
    });
    return running;
  }

  return {
    /** Tells all that is due now, mail included */
    async run(): Promise<void> {
      await run();
      while (mailing) await mailing;
    },
    /** Something of a learner's schedule has changed: what comes due is worked out anew */
    wake(learnerId: string): void {
      tryToRouse(learnerId);
      if (stopped || soon) return;
      soon = setTimeout(() => {
        soon = null;
        void run();
      }, SOON);
    },
    /** Tells when there is something to do next; null for nothing */
    nextAt: () => store.nextAt(mailReady),
    start(): void {
      stopped = false;
      stopping = false;
      tryToRouse(null);
      daily = setInterval(() => {
        try {
          store.transaction(() => {
            store.forgetBefore(clock.now() - KEPT);
            store.forgetUseless(clock.now() - DAY);
            store.forgetLettersBefore(clock.now() - KEPT);
          });
        } catch (error) {
          log('old notices could not be let go of', { code: codeOf(error) });
        }
      }, DAY).unref();
      void run();
    },
    async stop(): Promise<void> {
      stopped = true;
      stopping = true;
      if (daily) clearInterval(daily);
      if (next) clearTimeout(next);
      if (soon) clearTimeout(soon);
      soon = null;
      await running;
      // A letter that hangs is tried again after the next start.
      const enough = new AbortController();
      await Promise.race([
        mailing,
        setTimer(LAST_LETTERS, undefined, { signal: enough.signal }).catch(() => {}),
      ]);
      enough.abort();
    },
  };
}
export type NotifyEngine = ReturnType<typeof notifyEngine>;
