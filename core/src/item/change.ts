import type { When } from '../time/when.ts';
import { shortWhen, type Viewer } from '../words/when.ts';

/** Change that a reading has made to one occurrence, as it is told. */
export interface ChangeView {
  id: number;
  kind: 'added' | 'moved' | 'reworded' | 'calledOff' | 'removed';
  itemId: string;
  recurrenceId: string;
  calendarId: string;
  title: string;
  /** Place where it stood, and where it stands */
  from: When | null;
  to: When | null;
  /** Its title before, where that is what changed */
  formerTitle: string | null;
  /** Moment when that was read, an instant as text */
  at: string;
  seen: boolean;
}

/** Gives what a reading changed, in one line: `moved: Thu 8 Oct 16:00 → Mon 12 Oct 16:00`. */
export function changeWords(
  change: Pick<ChangeView, 'kind' | 'from' | 'to' | 'formerTitle'>,
  viewer: Viewer,
): string {
  const at = (when: When) => shortWhen(when, viewer);
  switch (change.kind) {
    case 'added':
      return change.to ? `new, ${at(change.to)}` : 'new';
    case 'moved':
      return change.from && change.to ? `moved: ${at(change.from)} → ${at(change.to)}` : 'moved';
    case 'reworded':
      return change.formerTitle ? `reworded, was “${change.formerTitle}”` : 'its description was changed';
    case 'calledOff':
      return change.from ? `called off, was ${at(change.from)}` : 'called off';
    case 'removed':
      return change.from ? `gone from its feed, was ${at(change.from)}` : 'gone from its feed';
  }
}
