import ICAL from 'ical.js';
import type { Length } from '../recurrence/repeatable.ts';
import { HOUR, MINUTE, SECOND, formatLocal } from '../time/civil.ts';
import { localIn, type When } from '../time/when.ts';
import type { Alarm, FeedItem } from './feed-item.ts';
import type { Property, Written } from './property.ts';
import type { WrittenZones } from './zone-blocks.ts';

type Design = typeof ICAL.design.icalendar;
/** Properties that the library does not know of the later standards; rules go out as they came in. */
const AS_TEXT = { defaultType: 'text' };
const AS_IT_IS = { defaultType: 'unknown' };
const DESIGN = {
  ...ICAL.design.icalendar,
  property: {
    ...(ICAL.design.icalendar.property as object),
    name: AS_TEXT,
    color: AS_IT_IS,
    rrule: AS_IT_IS,
    exrule: AS_IT_IS,
    acknowledged: { defaultType: 'date-time' },
  },
} as unknown as Design;

// The library counts a line without the blank that carries it on, which belongs to its 75 octets.
ICAL.foldLength = 74;

/** A component as iCalendar text: lines of at most 75 octets, each ended by CRLF (RFC 5545 3.1). */
export const textOf = (component: Written): string =>
  `${ICAL.stringify.component(component as unknown as unknown[], DESIGN)}\r\n`;

/** A date property: DATE, or DATE-TIME that floats, is in UTC or in a zone (RFC 5545 3.3.4, 3.3.5). */
export function dateProperty(name: string, when: When, zones: WrittenZones): Property {
  if (when.kind === 'date') return [name, {}, 'date', when.date];
  if (when.kind === 'floating') return [name, {}, 'date-time', when.local];
  const zone = zones.of(when.zone);
  if (!zone) return [name, {}, 'date-time', when.at];
  return [name, { tzid: zone.tzid }, 'date-time', formatLocal(localIn(when, zone.zone))];
}

/** An instant in milliseconds as a property in UTC. */
export const instantProperty = (name: string, ms: number): Property => [
  name,
  {},
  'date-time',
  `${new Date(ms).toISOString().slice(0, 19)}Z`,
];

/** A DURATION value (RFC 5545 3.3.6). Days are nominal, the rest is exact; both have one sign. */
export function durationText({ days, ms }: Length): string {
  const sign = days < 0 || ms < 0 ? '-' : '';
  const [d, t] = [Math.abs(days), Math.abs(ms)];
  const [hours, minutes, seconds] = [
    Math.floor(t / HOUR),
    Math.floor((t % HOUR) / MINUTE),
    (t % MINUTE) / SECOND,
  ];
  const time = `${hours ? `${hours}H` : ''}${minutes ? `${minutes}M` : ''}${seconds ? `${Math.floor(seconds)}S` : ''}`;
  if (!d && !time) return 'PT0S';
  return `${sign}P${d ? `${d}D` : ''}${time ? `T${time}` : ''}`;
}

/** Tells when it is, how it repeats and which date it changes. */
export function timeProperties(item: FeedItem, zones: WrittenZones): Property[] {
  const { start, end, due, length, repeat, recurrenceId, andFuture } = item;
  const date = (name: string, when: When | null) => (when ? [dateProperty(name, when, zones)] : []);
  const found = [
    ...date('recurrence-id', recurrenceId),
    ...date('dtstart', start),
    ...date('dtend', item.component === 'VEVENT' ? end : null),
    ...date('due', item.component === 'VTODO' ? (due ?? end) : null),
  ];
  if (andFuture && recurrenceId) found[0]![1]['range'] = 'THISANDFUTURE';
  // A to-do's due date says all; both at once are no iCalendar (RFC 5545 3.8.2.5).
  if (length && !found.some(([name]) => name === 'dtend' || name === 'due'))
    found.push(['duration', {}, 'duration', durationText(length)]);
  if (!repeat) return found;
  return [
    ...found,
    ...repeat.rules.map((rule): Property => ['rrule', {}, 'unknown', rule]),
    ...repeat.exceptRules.map((rule): Property => ['exrule', {}, 'unknown', rule]),
    ...repeat.dates.map(({ start: at, length: long }): Property => {
      const property = dateProperty('rdate', at, zones);
      return long && at.kind === 'instant' ? periodOf(at.at, long) : property;
    }),
    ...repeat.exceptDates.map((at) => dateProperty('exdate', at, zones)),
  ];
}

/** A date that has a length of its own (RFC 5545 3.3.9), in UTC. */
const periodOf = (at: string, length: Length): Property => [
  'rdate',
  {},
  'period',
  [at, durationText(length)],
];

/** Gives what is written about it: title, text, place, links, categories, and what has no meaning here. */
export function wordProperties(item: FeedItem): Property[] {
  const text = (name: string, value: string): Property[] => (value ? [[name, {}, 'text', value]] : []);
  return [
    ...text('description', item.description),
    ...(item.html ? [['styled-description', { fmttype: 'text/html' }, 'text', item.html] as Property] : []),
    ...text('location', item.place),
    ...item.links.map(({ href, label, role }): Property => {
      if (role === 'file') return ['attach', label ? { filename: label } : {}, 'uri', href];
      // A page of its own is one (RFC 5545 3.8.4.6); a number to ring and an address to write to are told with their words.
      if (role === 'page' && label === null) return ['url', {}, 'uri', href];
      return ['conference', label ? { label } : {}, 'uri', href];
    }),
    ...(item.categories.length ? [['categories', {}, 'text', ...item.categories] as Property] : []),
    ...item.extra,
  ];
}

/**
 * A reminder (RFC 5545 3.6.6) with what names it and when it was dealt with (RFC 9074 4, 6.1).
 * @param title what it says where it says nothing by itself; null leaves that as it is
 */
export function alarmOf(
  { action, trigger, description }: Alarm,
  {
    uid,
    title,
    acknowledged,
    zones,
  }: { uid: string; title: string | null; acknowledged: number | null; zones: WrittenZones },
): Written {
  const when: Property =
    'length' in trigger
      ? [
          'trigger',
          trigger.relativeTo === 'end' ? { related: 'END' } : {},
          'duration',
          durationText(trigger.length),
        ]
      : utcTrigger(trigger.at, zones);
  const words = description ?? title;
  return [
    'valarm',
    [
      ['uid', {}, 'text', uid],
      ['action', {}, 'text', action],
      when,
      ...(words === null ? [] : [['description', {}, 'text', words] as Property]),
      ...(acknowledged === null ? [] : [instantProperty('acknowledged', acknowledged)]),
    ],
    [],
  ];
}

/** A moment of an alarm, which has to be in UTC (RFC 5545 3.8.6.3). */
function utcTrigger(at: When, zones: WrittenZones): Property {
  return at.kind === 'instant' ? ['trigger', {}, 'date-time', at.at] : dateProperty('trigger', at, zones);
}
