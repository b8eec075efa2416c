import { hash } from '../lib/hash.ts';
import type { Repeat } from '../recurrence/repeatable.ts';
import { instantIn, recurrenceIdOf, type When } from '../time/when.ts';
import { UTC } from '../time/zone.ts';
import type { Alarm, FeedItem } from './feed-item.ts';
import { plainUid } from './identifiers.ts';
import { readLinks, textLinks } from './links.ts';
import type { Component, Property } from './property.ts';
import { readDuration, readPeriod, readWhen, readWhens, tzidOf, type ZoneByTzid } from './values.ts';

export interface ComponentContext {
  zoneByTzid: ZoneByTzid;
  warn(message: string): void;
}

const KNOWN = new Set([
  'uid',
  'dtstamp',
  'dtstart',
  'dtend',
  'due',
  'duration',
  'summary',
  'description',
  'location',
  'url',
  'categories',
  'status',
  'completed',
  'percent-complete',
  'rrule',
  'rdate',
  'exrule',
  'exdate',
  'recurrence-id',
  'sequence',
  'conference',
  'attach',
  'x-alt-desc',
  'styled-description',
  'created',
  'last-modified',
]);

const MAX_TITLE = 1000;
const MAX_TEXT = 200_000;

/**
 * Turns a parsed VEVENT or VTODO into a feed item. What cannot be read is left out with a warning.
 * @returns null where there is no date and no title: nothing that could be shown
 */
export function readItem(
  component: Component,
  { line, digest }: { line: number; digest: number },
  context: ComponentContext,
): FeedItem | null {
  const { warn } = context;
  const date = (name: string) => {
    const property = component.first(name);
    if (!property) return null;
    const when = readWhen(String(property[3] ?? ''), tzidOf(property), context.zoneByTzid);
    if (!when) warn(`${name.toUpperCase()} is no date that exists: ${String(property[3]).slice(0, 40)}`);
    return when;
  };
  const isTodo = component.name === 'VTODO';
  const start = date('dtstart');
  const due = isTodo ? date('due') : null;
  const title =
    clip(component.text('summary'), MAX_TITLE)
      ?.split(/[\r\n]+/)
      .map((line) => line.trim())
      .filter(Boolean)
      .join(' ') ?? '';
  const html = htmlOf(component);
  const description = clip(component.text('description'), MAX_TEXT) ?? '';
  if (!start && !due && !(isTodo && title)) {
    warn(`${title ? `“${title.slice(0, 60)}”` : 'an entry'} has no date that can be read and was left out`);
    return null;
  }
  const place = clip(component.text('location'), MAX_TITLE) ?? '';
  const { end, length } = readEnd(component, start, date, warn);
  const recurrenceId = component.first('recurrence-id') ? date('recurrence-id') : null;
  if (component.first('recurrence-id') && !recurrenceId) return null;
  const links = readLinks(component, place);
  const status = component.text('status')?.toUpperCase();
  const repeat = recurrenceId ? null : readRepeat(component, context);
  return {
    component: isTodo ? 'VTODO' : 'VEVENT',
    uid: plainUid(component.text('uid') ?? '') ?? ownUid(title, start ?? due, description),
    sequence: Number(component.text('sequence') ?? 0) || 0,
    title: title || description.split('\n')[0]?.slice(0, 120) || 'Untitled',
    description,
    html,
    place,
    // An entry that links nowhere by itself leads to the first address in its text.
    url: links[0]?.href ?? textLinks(description, html)[0]?.href ?? null,
    links,
    categories: component
      .all('categories')
      .flatMap((p) => p.slice(3).map((v) => String(v).trim()))
      .filter(Boolean),
    status: status === 'CANCELLED' ? 'cancelled' : status === 'TENTATIVE' ? 'tentative' : 'confirmed',
    start,
    end,
    due,
    length,
    completed: isTodo ? (date('completed') ?? (status === 'COMPLETED' ? (due ?? start) : null)) : null,
    percent:
      isTodo && component.text('percent-complete')
        ? Math.max(0, Math.min(100, Number(component.text('percent-complete')) || 0))
        : null,
    repeat,
    recurrenceId,
    andFuture: String(component.first('recurrence-id')?.[1]['range'] ?? '').toUpperCase() === 'THISANDFUTURE',
    alarms: component.children
      .filter((c) => c.name === 'VALARM')
      .slice(0, 20)
      .flatMap((c) => readAlarm(c, context)),
    extra: component.properties.filter((p) => !KNOWN.has(p[0])).slice(0, 200),
    line,
    digest,
  };
}

/** A text of a feed, cut where it is longer than anything people write. */
export const clip = (text: string | undefined, most: number) =>
  text && text.length > most ? text.slice(0, most) + '…' : text;

/** The identifier of an entry that has none: the same for the same entry at the next reading. */
function ownUid(title: string, start: When | null, description: string): string {
  return `no-uid-${hash(`${title}\n${start ? recurrenceIdOf(start) : ''}\n${description}`)}`;
}

function htmlOf(component: Component): string | null {
  const styled = component
    .all('styled-description')
    .find((p) => String(p[1]['fmttype'] ?? '').toLowerCase() === 'text/html');
  const alt = component
    .all('x-alt-desc')
    .find((p) => String(p[1]['fmttype'] ?? '').toLowerCase() === 'text/html');
  const text = (styled ?? alt)?.[3];
  return typeof text === 'string' && text.trim() && text.length <= MAX_TEXT
    ? text.replaceAll('\\n', '\n').replaceAll('\\,', ',').replaceAll('\\;', ';')
    : null;
}

function readEnd(
  component: Component,
  start: When | null,
  date: (name: string) => When | null,
  warn: (m: string) => void,
): Pick<FeedItem, 'end' | 'length'> {
  const duration = component.text('duration');
  if (component.first('dtend')) {
    const end = date('dtend');
    if (!end || !start) return { end: null, length: null };
    if (end.kind !== start.kind && (end.kind === 'date' || start.kind === 'date')) {
      warn('start and end are not of one kind; the end was left out');
      return { end: null, length: null };
    }
    if (instantIn(end, UTC) < instantIn(start, UTC)) {
      warn('ends before it starts; the end was left out');
      return { end: null, length: null };
    }
    return { end, length: null };
  }
  if (duration === undefined) return { end: null, length: null };
  const length = readDuration(duration);
  if (!length || length.days < 0 || length.ms < 0) {
    warn(`a duration that cannot be used was left out: ${duration.slice(0, 40)}`);
    return { end: null, length: null };
  }
  return { end: null, length };
}

function readRepeat(component: Component, { zoneByTzid, warn }: ComponentContext): Repeat | null {
  const rules = component.all('rrule').map((p) => String(p[3]));
  const exceptRules = component.all('exrule').map((p) => String(p[3]));
  const dates = component.all('rdate').flatMap((p) =>
    String(p[3])
      .split(',')
      .filter((v) => v.trim())
      .map(
        (v) =>
          readPeriod(v, tzidOf(p), zoneByTzid) ??
          (warn(`RDATE is no date that exists: ${v.slice(0, 40)}`), null),
      ),
  );
  const exceptDates = component
    .all('exdate')
    .flatMap((p) =>
      readWhens(p, zoneByTzid).map(
        (w) => w ?? (warn(`EXDATE is no date that exists: ${String(p[3]).slice(0, 40)}`), null),
      ),
    );
  if (!rules.length && !dates.length) return null;
  return {
    rules,
    exceptRules,
    dates: dates.filter((d) => d !== null),
    exceptDates: exceptDates.filter((d) => d !== null),
  };
}

function readAlarm(alarm: Component, { zoneByTzid }: ComponentContext): Alarm[] {
  const trigger: Property | undefined = alarm.first('trigger');
  if (!trigger) return [];
  const text = String(trigger[3] ?? '');
  const length = readDuration(text);
  const at = length ? null : readWhen(text, tzidOf(trigger), zoneByTzid);
  if (!length && !at) return [];
  const relativeTo = String(trigger[1]['related'] ?? '').toUpperCase() === 'END' ? 'end' : 'start';
  return [
    {
      action: (alarm.text('action') ?? 'DISPLAY').toUpperCase(),
      trigger: length ? { relativeTo, length } : { at: at! },
      description: clip(alarm.text('description'), 500) ?? null,
    },
  ];
}
