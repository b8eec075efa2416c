import type { Property } from '../ical/property.ts';
import { instantProperty } from '../ical/write.ts';
import type { ZoneBlocks } from '../ical/zone-blocks.ts';
import type { OccurrenceView } from '../item/occurrence.ts';
import type { Viewer } from '../words/when.ts';
import { CSS_COLOURS } from '../item/flag.ts';
import type { OutCalendar, OutItem, OutSchedule } from './going-out.ts';
import type { ShareRules } from './share.ts';

export interface Writing {
  schedule: OutSchedule;
  rules: ShareRules;
  /** Makes names of what is busy that tell nothing of it */
  salt: string;
  /** Each date of a series by itself, where only a span of time goes out */
  apart?: boolean | undefined;
  /** An instant in milliseconds */
  now: number;
}

/** The same, with what it takes to write it. */
export interface Out extends Writing {
  zones: ZoneBlocks;
  viewer: Viewer;
  datesOf: ReadonlyMap<string, OccurrenceView[]>;
  calendars: ReadonlyMap<string, OutCalendar>;
  items: ReadonlyMap<string, OutItem>;
}

/** Gives what names an entry and says how old it is: all of it changes with the item, and with nothing else. */
export function stamps(
  uid: string,
  { createdAt, updatedAt, goneAt }: Pick<OutItem, 'createdAt' | 'updatedAt' | 'goneAt'>,
): Property[] {
  const changed = Math.max(updatedAt, goneAt ?? 0, createdAt);
  return [
    ['uid', {}, 'text', uid],
    instantProperty('dtstamp', changed),
    instantProperty('created', createdAt),
    instantProperty('last-modified', changed),
    // It grows with each change that is a second or more after the one before (RFC 5545 3.8.7.4).
    ['sequence', {}, 'integer', Math.floor((changed - createdAt) / 1_000)],
  ];
}

/** Categories, with the name of the calendar. */
export const withName = (categories: readonly string[], name: string | undefined) =>
  name && !categories.includes(name) ? [...categories, name] : [...categories];

/** An entry's colour is its calendar's (RFC 7986 5.9). */
export function colourOf({ calendarId }: Pick<OutItem, 'calendarId'>, { calendars }: Out): Property[] {
  const calendar = calendars.get(calendarId);
  return calendar ? [['color', {}, 'unknown', CSS_COLOURS[calendar.colour]]] : [];
}
