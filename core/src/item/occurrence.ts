import type { When } from '../time/when.ts';
import type { Colour } from './flag.ts';
import type { HandInWay, ItemKind } from './kind.ts';

/** Owners of what several learners have in common, their mark on a slip, and its calendar’s name with theirs. */
export interface SharedBy {
  name: string;
  mark: string;
  calendar: string;
}

/** One date of an item with what a person has added to it: what every view draws. */
export interface OccurrenceView {
  itemId: string;
  /** Which occurrence of a repeated item; empty for what does not repeat */
  recurrenceId: string;
  calendarId: string;
  /** Other calendars that have the same thing */
  alsoIn: string[];
  title: string;
  place: string;
  kind: ItemKind;
  handIn: HandInWay;
  status: 'confirmed' | 'tentative' | 'cancelled';
  start: When;
  end: When | null;
  due: When | null;
  /** After this nothing is taken any more; null where nobody has said that it closes */
  closes: When | null;
  /** It has no date; `start` is the day it was made */
  undated: boolean;
  /** Made by hand, so that it can be changed and moved */
  own: boolean;
  finished: boolean;
  /** An instant as text */
  finishedAt: string | null;
  /** Way in which it was handed in, where that was told */
  handedIn: HandInWay | null;
  /** A person has said that it is not done: its date has passed, or its course says that it is */
  stillToDo: boolean;
  /** Its course says that it is done */
  doneInCourse: boolean;
  /** One of a series that goes on for ever */
  endless: boolean;
  /** By when the person means to be finished */
  aim: When | null;
  /** Time the person thinks it takes, in minutes */
  estimate: number | null;
  /** Hidden, by itself, by the person who looks and for them alone */
  hidden: boolean;
  /** The colour it has for the person who looks */
  colour: Colour | null;
  /** Where a person has put it in its bucket of the to-do list */
  position: number | null;
  /** Of the layer the crew shares; 0 where there is none yet */
  version: number;
  /** Of what the person who looks has for themselves on it; 0 where there is nothing */
  personVersion: number;
  /** Hours of a calendar that is kept from who looks: nothing else is said of it */
  busy?: true | undefined;
  /** Place where it stands for a sitting: which one (see `plan/plan-days`) */
  sitting?: string;
  /** Place where it stands for the same thing of several learners (see `view/shared`): whose */
  sharedBy?: SharedBy;
}

/** Names one date of an item. */
export const keyOf = ({ itemId, recurrenceId }: { itemId: string; recurrenceId: string }): string =>
  `${itemId} ${recurrenceId}`;

/** Layer of an occurrence before anybody has put a mark on it. */
export const UNTOUCHED = {
  closes: null,
  undated: false,
  own: false,
  finished: false,
  finishedAt: null,
  handedIn: null,
  stillToDo: false,
  doneInCourse: false,
  endless: false,
  aim: null,
  estimate: null,
  hidden: false,
  colour: null,
  position: null,
  version: 0,
  personVersion: 0,
} as const satisfies Partial<OccurrenceView>;

/** Gives when work has to be ready by: when it is due, and of a test sat at its hours its beginning; null for the rest. */
export const readyBy = ({ kind, due, start, undated }: OccurrenceView): When | null =>
  due ?? (kind === 'test' && !undated ? start : null);
