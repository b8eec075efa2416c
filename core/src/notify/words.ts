import { isWork, type HandInWay, type ItemKind } from '../item/kind.ts';
import type { When } from '../time/when.ts';
import { HANDED_IN_WORDS, HAND_IN_WORDS } from '../item/words.ts';
import { capital } from '../words/text.ts';
import { changeWords, type ChangeView } from '../item/change.ts';
import { shortDue, spanDayWords, type Viewer } from '../words/when.ts';
import type { MomentOf } from './moments.ts';

interface About {
  kind: ItemKind;
  handIn: HandInWay;
  start: When;
  end: When | null;
  due: When | null;
  aim: When | null;
  place: string;
}

/** What a reminder says under the item's title. Dates are exact, since nobody knows when it is read. */
export function reminderWords(o: About, of: MomentOf, viewer: Viewer): string {
  if (of === 'pastDue') return `Was due ${shortDue(o.due!, viewer)}, and is still open.`;
  const how = isWork(o.kind) && o.handIn !== 'unknown' ? ` · ${HAND_IN_WORDS[o.handIn]}` : '';
  if (of === 'aim' && o.aim && o.due)
    return `Your aim is ${shortDue(o.aim, viewer)}; due ${shortDue(o.due, viewer)}${how}`;
  if (isWork(o.kind) && o.due) return `Due ${shortDue(o.due, viewer)}${how}`;
  return [spanDayWords(o.start, o.end, viewer), o.place].filter(Boolean).join(' · ');
}

/** What a change says under the item's title: `Moved: Thu 8 Oct 16:00 → Mon 12 Oct 16:00`. */
export function changeNotice(
  change: Pick<ChangeView, 'kind' | 'from' | 'to' | 'formerTitle'>,
  viewer: Viewer,
): string {
  return capital(changeWords(change, viewer));
}

export const handedInWords = (channel: HandInWay, by: string): string =>
  `Handed in ${HANDED_IN_WORDS[channel]}${by ? `, told by ${by}` : ''}`;
