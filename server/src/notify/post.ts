import type { Log } from '../log.ts';
import type { Mail } from '../mail/frame.ts';
import { MailTrouble, type Transport } from '../mail/transport.ts';
import { inSlices } from './slices.ts';
import type { DeliveryRow, LetterRow, NotifyStore } from './store.ts';

/** Reason why a row is not to be sent any more; null where it is. */
export type StillTrue = (row: DeliveryRow) => string | null;

export interface PostDeps {
  store: NotifyStore;
  transport: Transport | null;
  clock: { now(): number };
  /** Between 0 and 1 */
  chance(): number;
  /** The address that a person has confirmed; null where they have none */
  addressOf(personId: string): string | null;
  write(rows: readonly DeliveryRow[], personId: string): Mail;
  unsubscribe(personId: string): string;
  newId(now: number): string;
  host: string;
  log: Log;
}

/** Number of letters that are on their way at once: one that hangs holds up none of the others. */
const AT_ONCE = 8;
const BATCH = 100;
const MINUTE = 60_000;
const LONGEST_WAIT = 60 * MINUTE;
const GIVE_UP = 24 * 60 * MINUTE;

/**
 * How long to wait before trying again, in milliseconds: twice as long each time, up to an hour, give or take
 * a fifth.
 */
export const backOff = (attempts: number, chance: number): number =>
  Math.min(LONGEST_WAIT, MINUTE * 2 ** Math.max(0, attempts - 1)) * (0.8 + 0.4 * chance);

/**
 * The way by mail. What waits for a person becomes a letter in one transaction, and only then is it handed
 * over: so it is the same letter, under the same Message-ID (RFC 5322 3.6.4), should the process end between
 * the mail server's “250” and our note of it. That is the one moment in which SMTP cannot know; whoever keeps
 * mail tells a repeat by its Message-ID.
 */
export function postOffice({
  store,
  transport,
  clock,
  chance,
  addressOf,
  write,
  unsubscribe,
  newId,
  host,
  log,
}: PostDeps) {
  /** Gives what of some rows is still worth sending; the rest is dropped with a word. */
  function sound(rows: readonly DeliveryRow[], now: number, stillTrue: StillTrue): DeliveryRow[] {
    return rows.filter((row) => {
      const reason = row.useBy < now ? 'too late to be of use' : stillTrue(row);
      if (reason) store.settle([row.id], { state: 'dropped', reason });
      return !reason;
    });
  }

  /** Makes letters of all that waits for a person. */
  function formFor(personId: string, now: number, stillTrue: StillTrue): void {
    const rows = sound(store.waitingOf(personId, 'mail', now), now, stillTrue);
    if (!rows.length) return;
    // A note is a mail of its own, so that it can be answered; all else goes together.
    const others = rows.filter((r) => r.cause !== 'note');
    const letters = [
      ...rows.filter((r) => r.cause === 'note').map((r) => [r]),
      ...(others.length ? [others] : []),
    ];
    for (const of of letters) {
      const id = newId(now);
      store.addLetter({ id, personId, nextTryAt: now, giveUpAt: now + GIVE_UP, createdAt: now });
      store.settle(
        of.map((r) => r.id),
        { letterId: id },
      );
    }
  }

  /** Since when no mail goes out, for a reason of the mail server's or of the way to it; null while all is well */
  let troubleSince: number | null = null;

  /** Letters that were taken, and could not be noted (the disk is full, say): they are noted, and not sent again */
  const taken = new Set<string>();

  /**
   * Hands a letter over, and notes at once what came of it; but where its recipient was refused, that is told, since
   * a server that refuses everybody is at fault itself.
   * @returns the code it was refused with, else what came of it
   */
  async function send(letter: LetterRow, stillTrue: StillTrue): Promise<number | 'taken' | 'no'> {
    const now = clock.now();
    if (taken.has(letter.id)) {
      noteSent(letter);
      return 'no';
    }
    const waiting = store.ofLetter(letter.id).filter((r) => r.state === 'waiting');
    // What was refused before is looked at again, since hours may have gone by; what may be on its way
    // already stays as it is.
    const rows = letter.attempts ? store.transaction(() => sound(waiting, now, stillTrue)) : waiting;
    const to = addressOf(letter.personId);
    if (!rows.length || !to || !transport) {
      store.changeLetter(letter.id, { nextTryAt: null, problem: 'nothing to send' });
      return 'no';
    }
    try {
      await transport({
        ...write(rows, letter.personId),
        to,
        messageId: `<${letter.id}@${host}>`,
        unsubscribe: unsubscribe(letter.personId),
      });
    } catch (error) {
      const { isRecipients, responseCode } =
        error instanceof MailTrouble ? error : { isRecipients: false, responseCode: 0 };
      if (isRecipients) return responseCode;
      troubleSince ??= now;
      failed(letter, now, false, responseCode);
      return 'no';
    }
    troubleSince = null;
    taken.add(letter.id);
    noteSent(letter);
    return 'taken';
  }

  /** Notes whose recipients were refused: several people at once and nobody taken is the mail server's fault. */
  function noteRefused(refused: readonly { letter: LetterRow; code: number }[], isAnyTaken: boolean): void {
    const now = clock.now();
    const isServers = !isAnyTaken && new Set(refused.map(({ letter }) => letter.personId)).size > 1;
    if (isServers) troubleSince ??= now;
    for (const { letter, code } of refused) failed(letter, now, !isServers, code);
  }

  function noteSent(letter: LetterRow): void {
    store.transaction(() => {
      store.letterSent(letter.id, clock.now(), letter.attempts + 1);
      if (store.mailTrouble(letter.personId)?.mailTrouble)
        store.saveSheetClock(letter.personId, { mailTrouble: null, mailTroubleSince: null });
    });
    taken.delete(letter.id);
  }

  /**
   * @param refused that recipient was, for good; anything else is tried for a day
   * @param code what the mail server answered (RFC 5321 4.2); 0 where it could not be reached
   */
  function failed(letter: LetterRow, now: number, refused: boolean, code: number): void {
    const attempts = letter.attempts + 1;
    const wait = backOff(attempts, chance());
    const isOver = refused || now + wait > letter.giveUpAt;
    const trouble = refused ? 'refused' : 'unreached';
    // Neither the address nor what the server said is logged: both may be somebody's own.
    const next = isOver ? 'given up' : 'it is tried again';
    log(`a mail was ${refused ? 'refused' : 'not taken'}; ${next}`, { code, attempts });
    store.transaction(() => {
      store.changeLetter(letter.id, {
        attempts,
        nextTryAt: isOver ? null : now + wait,
        problem: refused ? `refused with ${code}` : code ? `not taken: ${code}` : 'mail server not reached',
      });
      if (isOver)
        store.settleLetter(letter.id, {
          state: 'failed',
          reason: refused ? 'the address was refused' : 'no mail went out for a day',
        });
      const known = store.mailTrouble(letter.personId);
      store.saveSheetClock(letter.personId, {
        mailTrouble: trouble,
        mailTroubleSince: known?.mailTrouble === trouble ? known.mailTroubleSince : now,
      });
    });
  }

  return {
    /** Since when no mail goes out, for no fault of who is written to; null while it does, as far as is known */
    troubleSince: () => troubleSince,
    /** Makes letters of all that may go by `now`, for everybody. */
    async form(now: number, stillTrue: StillTrue): Promise<void> {
      if (!transport) return;
      for (let people = store.mailWaiting(now, BATCH); people.length; people = store.mailWaiting(now, BATCH))
        await inSlices(people, store.transaction, (personId) => formFor(personId, now, stillTrue));
    },
    /**
     * Sends the letters that are due, some at a time; gives whether there may be more.
     * @param goesOn asked before each letter
     */
    async run(stillTrue: StillTrue, goesOn: () => boolean): Promise<boolean> {
      if (!transport) return false;
      const letters = store.dueLetters(clock.now(), BATCH);
      const left = [...letters];
      const refused: { letter: LetterRow; code: number }[] = [];
      let isAnyTaken = false;
      const sendNext = async (): Promise<void> => {
        for (let letter = left.shift(); letter && goesOn(); letter = left.shift()) {
          const came = await send(letter, stillTrue);
          if (came === 'taken') isAnyTaken = true;
          else if (came !== 'no') refused.push({ letter, code: came });
        }
      };
      await Promise.all(Array.from({ length: AT_ONCE }, sendNext));
      noteRefused(refused, isAnyTaken);
      return letters.length === BATCH;
    },
  };
}
