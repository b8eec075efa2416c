import { DAY } from '@zephyrfield/core/time/civil';
import { and, asc, eq, isNull, lte, sql } from 'drizzle-orm';
import type { Db } from '../db/open.ts';
import { delivery, letter } from '../db/schema.ts';
import type { DeliveryRow } from './delivery-store.ts';

export type LetterRow = typeof letter.$inferSelect;

/** Mails, each made of deliveries once and for all. */
export function letterStore(db: Db) {
  const { $client: sqlite } = db;
  const p = sql.placeholder;
  const dueLetters = db
    .select()
    .from(letter)
    .where(lte(letter.nextTryAt, p('now')))
    .orderBy(asc(letter.nextTryAt))
    .limit(p('limit'))
    .prepare();
  const ofLetter = db
    .select()
    .from(delivery)
    .where(eq(delivery.letterId, p('id')))
    .orderBy(asc(delivery.at), asc(delivery.id))
    .prepare();
  const addLetter = sqlite.prepare(
    `INSERT INTO letter (id, person_id, next_try_at, give_up_at, created_at)
      VALUES (@id, @personId, @nextTryAt, @giveUpAt, @createdAt)`,
  );
  const letterSent = sqlite.prepare(
    `UPDATE letter SET sent_at = @at, next_try_at = NULL, attempts = @attempts, problem = NULL
      WHERE id = @id`,
  );
  const rowsSent = sqlite.prepare(`UPDATE delivery SET state = 'sent', sent_at = @at WHERE letter_id = @id`);
  // A row may have waited two days for its letter, and no longer.
  const mailsSince = sqlite
    .prepare<{ personId: string; from: number }, number>(
      `SELECT count(DISTINCT d.letter_id) FROM delivery d JOIN letter l ON l.id = d.letter_id
        WHERE d.person_id = @personId AND d.channel = 'mail' AND d.at >= @from - ${2 * DAY}
        AND d.cause <> 'note' AND l.created_at >= @from`,
    )
    .pluck();
  return {
    /** Counts the letters that were made for somebody from an instant on, those of notes apart. */
    mailsSince: (personId: string, from: number) => mailsSince.get({ personId, from })!,
    /** A letter has been handed over, and with it what it is made of */
    letterSent(id: string, at: number, attempts: number): void {
      letterSent.run({ id, at, attempts });
      rowsSent.run({ id, at });
    },
    settleLetter: (letterId: string, values: Partial<DeliveryRow>) =>
      db.update(delivery).set(values).where(eq(delivery.letterId, letterId)).run(),
    addLetter: ({
      id,
      personId,
      nextTryAt,
      giveUpAt,
      createdAt,
    }: Pick<LetterRow, 'id' | 'personId' | 'nextTryAt' | 'giveUpAt' | 'createdAt'>) =>
      addLetter.run({ id, personId, nextTryAt, giveUpAt, createdAt }),
    changeLetter: (id: string, values: Partial<LetterRow>) =>
      db.update(letter).set(values).where(eq(letter.id, id)).run(),
    dueLetters: (now: number, limit: number) => dueLetters.all({ now, limit }),
    /** Letters of a person that were given up or wait are tried at once */
    tryLettersOf: (personId: string, now: number) =>
      db
        .update(letter)
        .set({ nextTryAt: now })
        .where(and(eq(letter.personId, personId), isNull(letter.sentAt), sql`next_try_at IS NOT NULL`))
        .run(),
    ofLetter: (id: string) => ofLetter.all({ id }),
    forgetLettersBefore: (before: number) =>
      sqlite.prepare('DELETE FROM letter WHERE created_at < ? AND next_try_at IS NULL').run(before),
  };
}
