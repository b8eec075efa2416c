import { isWork, type HandInWay, type ItemKind } from '../item/kind.ts';
import { instantOf, type When } from '../time/when.ts';
import { HANDED_IN_WORDS, HAND_IN_WORDS } from '../item/words.ts';
import { capital } from '../words/text.ts';
import { changeWords, type ChangeView } from '../item/change.ts';
import { dueDay, shortDue, spanDayWords, today, type Viewer } from '../words/when.ts';
import { urgencyOf } from '../item/urgency.ts';
import type { DueMoment } from './moments.ts';

interface About {
  kind: ItemKind;
  handIn: HandInWay;
  start: When;
  end: When | null;
  due: When | null;
  closes: When | null;
  aim: When | null;
  stillToDo: boolean;
  place: string;
}

/**
 * Words a reminder says under the item's title. Dates are exact, since nobody knows when it is read.
 * @param moment what it looks towards, and when it is told: an instant in milliseconds
 */
export function reminderWords(o: About, { of, at }: Pick<DueMoment, 'of' | 'at'>, viewer: Viewer): string {
  if (
    of === 'pastDue' &&
    o.closes &&
    urgencyOf({ ...o, due: o.due!, finished: false }, at, viewer) === 'closed'
  )
    return `Closed ${shortDue(o.closes, viewer)}, and is not finished.`;
  if (of === 'pastDue') return `Was due ${shortDue(o.due!, viewer)}, and is still open.`;
  const how = isWork(o.kind) && o.handIn !== 'unknown' ? ` · ${HAND_IN_WORDS[o.handIn]}` : '';
  if (of === 'aim' && o.aim && o.due)
    return `Your aim is ${shortDue(o.aim, viewer)}; due ${shortDue(o.due, viewer)}${how}`;
  if (isWork(o.kind) && o.due) return `Due ${shortDue(o.due, viewer)}${how}`;
  return [spanDayWords(o.start, o.end, viewer), o.place].filter(Boolean).join(' · ');
}

/**
 * What a reminder says to somebody who reads it now: `Tomorrow, due Thu 8 Oct 16:00`. Days further off are exact
 * alone.
 * @param line its words, as they were made for any day
 * @param anchor the last moment that is in time, or the beginning; null where nothing hangs on one
 * @param now instants, in milliseconds
 */
export function lineToday(line: string, anchor: number | null, now: number, viewer: Viewer): string {
  if (anchor === null) return line;
  // Of a whole day, the last moment is the midnight that ends it.
  const day = dueDay(instantOf(anchor - 1), viewer) - today(now, viewer);
  const word = day === 0 ? 'Today' : day === 1 ? 'Tomorrow' : null;
  return word ? `${word}, ${line.replace(/^(Due|Your)\b/, (w) => w.toLowerCase())}` : line;
}

/** Gives what a change says under the item's title: `Moved: Thu 8 Oct 16:00 → Mon 12 Oct 16:00`. */
export function changeNotice(
  change: Pick<ChangeView, 'kind' | 'from' | 'to' | 'formerTitle'>,
  viewer: Viewer,
): string {
  return capital(changeWords(change, viewer));
}

export const handedInWords = (channel: HandInWay, by: string): string =>
  by ? `${by} says it was handed in ${HANDED_IN_WORDS[channel]}` : `Handed in ${HANDED_IN_WORDS[channel]}`;
