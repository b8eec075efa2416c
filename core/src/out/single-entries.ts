import type { Property, Written } from '../ical/property.ts';
import { dateProperty, instantProperty, wordProperties } from '../ical/write.ts';
import type { WrittenZones } from '../ical/zone-blocks.ts';
import type { OccurrenceView } from '../item/occurrence.ts';
import { hash } from '../lib/hash.ts';
import { DAY, MINUTE, formatDate } from '../time/civil.ts';
import { dayIn, instantIn, instantOf, localIn, type When } from '../time/when.ts';
import type { Zone } from '../time/zone.ts';
import { dueDay, minuteWords, nightOf, shortDay, type Viewer } from '../words/when.ts';
import { momentAlarms } from './alarms.ts';
import { faceOf, uidOf, type OutItem } from './going-out.ts';
import { colourOf, stamps, withName, type Out } from './writing.ts';

// Entries of one date each: work on its day or at its hour, aims, sittings, busy hours.

/** What stands at an hour lasts so long, and is over when it is due. */
const AT_HOUR = 30 * MINUTE;

/** A piece of work on one date, as an entry of its day or at its hour. */
export function dayEntry(date: OccurrenceView, item: OutItem, out: Out): Written[] {
  const { rules, viewer } = out;
  const due = date.due ?? date.start;
  const zones = out.zones.within(item.zones);
  const face = faceOf(date, item);
  const words =
    rules.detail === 'everything'
      ? wordProperties({
          ...face,
          categories: withName(face.categories, out.calendars.get(item.calendarId)?.name),
        })
      : [];
  const taken = new Set(['transp', 'status', 'color']);
  const at = due.kind === 'date' ? null : minuteWords((localIn(due, viewer) % DAY) / MINUTE);
  const hour = rules.workAs === 'hour' && due.kind !== 'date';
  const title = `${date.finished ? 'Done: ' : ''}${date.title}${at && !hour ? `, due ${at}${nightWords(due, viewer)}` : ''}`;
  const id = date.recurrenceId ? `${item.id}-${hash(date.recurrenceId)}` : item.id;
  return [
    [
      'vevent',
      [
        ...stamps(uidOf(id), item),
        ...(hour ? hourOf(due, zones, viewer) : dayProperties(dayIn(due, viewer))),
        ['summary', {}, 'text', title],
        ...words.filter(([name]) => !taken.has(name)),
        ['transp', {}, 'text', 'TRANSPARENT'],
        ['status', {}, 'text', date.status.toUpperCase()],
        ...colourOf(item, out),
      ],
      rules.reminders ? momentAlarms(date, item, out, uidOf(id), zones) : [],
    ],
  ];
}

const dayProperties = (day: number): Property[] => [
  ['dtstart', {}, 'date', formatDate(day)],
  ['dtend', {}, 'date', formatDate(day + 1)],
];

function hourOf(due: When, zones: WrittenZones, viewer: Zone): Property[] {
  const end = instantIn(due, viewer);
  const zone = due.kind === 'instant' ? due.zone : viewer.id;
  return [
    dateProperty('dtstart', instantOf(end - AT_HOUR, zone), zones),
    dateProperty('dtend', instantOf(end, zone), zones),
  ];
}

/** Hours without words. Its name, its age and its times are all that is said. */
export function busyEntry(date: OccurrenceView, out: Out): Written {
  const { start, end } = date;
  const zones = out.zones.within({});
  const times: Property[] = [
    dateProperty('dtstart', start, zones),
    ...(end ? [dateProperty('dtend', end, zones)] : []),
  ];
  return [
    'vevent',
    [
      ['uid', {}, 'text', uidOf(date.itemId)],
      instantProperty('dtstamp', instantIn(start, out.viewer)),
      ...times,
      ['summary', {}, 'text', 'Busy'],
      ['transp', {}, 'text', 'OPAQUE'],
      ['status', {}, 'text', date.status.toUpperCase()],
    ],
    [],
  ];
}

function ofDate(
  o: OccurrenceView,
  out: Out,
  what: string,
  title: string,
  times: Property[],
  transp: string,
): Written {
  const age = out.items.get(o.itemId) ?? { createdAt: 0, updatedAt: 0, goneAt: null };
  return [
    'vevent',
    [
      ...stamps(uidOf(`${o.itemId}-${hash(`${o.recurrenceId} ${what}`)}`), age),
      ...times,
      ['summary', {}, 'text', title],
      ['transp', {}, 'text', transp],
    ],
    [],
  ];
}

/** By when somebody means to be finished. */
export function aimEntry(o: OccurrenceView, out: Out): Written[] {
  if (!o.aim || o.finished || o.status === 'cancelled') return [];
  const zones = out.zones.within({});
  const times =
    o.aim.kind === 'date' ? dayProperties(dayIn(o.aim, out.viewer)) : hourOf(o.aim, zones, out.viewer);
  return [ofDate(o, out, 'aim', `Aim: ${o.title}`, times, 'TRANSPARENT')];
}

export function sittingEntry(o: OccurrenceView, out: Out): Written {
  const zones = out.zones.within({});
  const at = (when: When) => instantOf(instantIn(when, out.viewer), out.viewer.id);
  const times = [
    dateProperty('dtstart', at(o.start), zones),
    dateProperty('dtend', at(o.end ?? o.start), zones),
  ];
  return ofDate(o, out, 'sitting', o.title, times, 'OPAQUE');
}

/** Says of a deadline after midnight, which stands on its real date, whose night it belongs to. */
function nightWords(due: When, viewer: Viewer): string {
  const night = nightOf(due, viewer);
  return night && ` (${night}${shortDay(dueDay(due, viewer))})`;
}
