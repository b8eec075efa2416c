import { DAY, HOUR } from '@zephyrfield/core/time/civil';
import type { Db } from './open.ts';

/** No link is ever to be checked later than a day and a bit from now. */
const FARTHEST_CHECK = DAY + 6 * HOUR;

/**
 * Works out anew what was planned while the clock was wrong, after it has been set back: reminders and sheets of the
 * hours that come once more are due again, what was told ahead of its time comes at its time, and links that were to be
 * checked days from now are checked within an hour.
 * @param now instant, in milliseconds, by the clock that is right
 * @param chance between 0 and 1
 */
export function setBack({ $client: sqlite }: Db, now: number, chance: () => number): void {
  sqlite.transaction(() => {
    sqlite
      .prepare('UPDATE notify_clock SET done_to = @now, next_at = @now WHERE done_to > @now')
      .run({ now });
    sqlite.prepare('UPDATE sheet_clock SET done_to = @now, next_at = @now WHERE done_to > @now').run({ now });
    sqlite
      .prepare(
        `DELETE FROM delivery WHERE moment > @now
          OR (at > @now AND state = 'dropped' AND reason = 'too late to be of use')`,
      )
      .run({ now });
    sqlite
      .prepare('UPDATE letter SET next_try_at = @now WHERE next_try_at > @later')
      .run({ now, later: now + HOUR });
    const far = sqlite
      .prepare<[number], string>('SELECT id FROM source WHERE next_check_at > ?')
      .pluck()
      .all(now + FARTHEST_CHECK);
    const check = sqlite.prepare<[number, string]>('UPDATE source SET next_check_at = ? WHERE id = ?');
    for (const id of far) check.run(now + Math.round(chance() * HOUR), id);
  })();
}

/**
 * Lets go of what waited to be sent when a backup was made that was brought back: since then it may have been sent. It
 * stands in the app.
 * @param restoredAt instant, in milliseconds; 0 where nothing was brought back
 */
export function letGoBefore({ $client: sqlite }: Db, restoredAt: number): void {
  if (!restoredAt) return;
  sqlite.transaction(() => {
    sqlite
      .prepare(
        `UPDATE delivery SET state = 'dropped', reason = 'before a backup was brought back'
          WHERE state = 'waiting' AND channel <> 'app' AND not_before <= ?`,
      )
      .run(restoredAt);
    sqlite.prepare('UPDATE letter SET next_try_at = NULL WHERE created_at <= ?').run(restoredAt);
  })();
}
