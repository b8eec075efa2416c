import type { HandInWay } from '../item/kind.ts';
import type { OccurrenceView } from '../item/occurrence.ts';
import { HANDED_IN_WORDS, HAND_IN_WORDS, KIND_WORDS } from '../item/words.ts';
import { formatDate } from '../time/civil.ts';
import { dayIn, instantOf, localIn } from '../time/when.ts';
import { minuteOfDay, minuteWords, type Viewer } from '../words/when.ts';

/** Tables that can be had: items, and what was told about finishing and handing in. */
export const TABLES = ['items', 'records'] as const;
export type TableOf = (typeof TABLES)[number];

/** Something told about a piece of work. */
export interface TableRecord {
  title: string;
  calendarId: string;
  kind: 'finished' | 'reopened' | 'handedIn' | 'stillToDo';
  way: HandInWay | null;
  note: string;
  by: string | null;
  /** Moment when it was done, an instant in milliseconds */
  at: number;
  due: OccurrenceView['due'];
}

/** One column of a table: its heading, and what stands in it. */
export interface Column<Row> {
  heading: string;
  of(row: Row, context: TableContext): string;
}
export interface TableContext {
  viewer: Viewer;
  /** Calendars' names by their ids */
  names: ReadonlyMap<string, string>;
}

const RECORD_WORDS: Record<TableRecord['kind'], string> = {
  finished: 'finished',
  reopened: 'opened again',
  handedIn: 'handed in',
  stillToDo: 'still to do',
};

const clock = (when: OccurrenceView['start'], viewer: Viewer) =>
  when.kind === 'date' ? '' : minuteWords(Math.floor(localIn(when, viewer) / 60_000) % 1440);
const moment = (ms: number, viewer: Viewer) =>
  `${formatDate(dayIn(instantOf(ms), viewer))} ${minuteWords(minuteOfDay(ms, viewer))}`;
const dayOf = (o: OccurrenceView, viewer: Viewer) =>
  o.undated ? '' : formatDate(dayIn(o.due ?? o.start, viewer));

/** Columns of a table of items, by name, in their order. */
export const ITEM_COLUMNS = {
  day: { heading: 'Day', of: (o, { viewer }) => dayOf(o, viewer) },
  time: { heading: 'Time', of: (o, { viewer }) => (o.undated ? '' : clock(o.due ?? o.start, viewer)) },
  end: { heading: 'End', of: (o, { viewer }) => (o.due || !o.end ? '' : clock(o.end, viewer)) },
  title: { heading: 'Title', of: (o) => o.title },
  calendar: { heading: 'Calendar', of: (o, { names }) => names.get(o.calendarId) ?? '' },
  kind: { heading: 'Kind', of: (o) => KIND_WORDS[o.kind] },
  handIn: { heading: 'How to hand in', of: (o) => HAND_IN_WORDS[o.handIn] },
  place: { heading: 'Place', of: (o) => o.place },
  state: {
    heading: 'State',
    of: (o) => (o.status === 'cancelled' ? 'called off' : o.finished ? 'finished' : 'open'),
  },
  finished: {
    heading: 'Finished',
    of: (o, { viewer }) => (o.finishedAt ? moment(Date.parse(o.finishedAt), viewer) : ''),
  },
  handedIn: { heading: 'Handed in', of: (o) => (o.handedIn ? HANDED_IN_WORDS[o.handedIn] : '') },
  minutes: { heading: 'Minutes expected', of: (o) => (o.estimate === null ? '' : String(o.estimate)) },
} as const satisfies Record<string, Column<OccurrenceView>>;
export type ItemColumn = keyof typeof ITEM_COLUMNS;

/** The same of a table of what was told. */
export const RECORD_COLUMNS = {
  told: { heading: 'When', of: (r, { viewer }) => moment(r.at, viewer) },
  what: { heading: 'What', of: (r) => RECORD_WORDS[r.kind] },
  way: { heading: 'How', of: (r) => (r.way ? HANDED_IN_WORDS[r.way] : '') },
  title: { heading: 'Title', of: (r) => r.title },
  calendar: { heading: 'Calendar', of: (r, { names }) => names.get(r.calendarId) ?? '' },
  due: {
    heading: 'Due',
    of: (r, { viewer }) =>
      r.due ? `${formatDate(dayIn(r.due, viewer))} ${clock(r.due, viewer)}`.trim() : '',
  },
  note: { heading: 'Note', of: (r) => r.note },
  by: { heading: 'By', of: (r) => r.by ?? '' },
} as const satisfies Record<string, Column<TableRecord>>;
export type RecordColumn = keyof typeof RECORD_COLUMNS;
