import ICAL from 'ical.js';
import type { CampusDate, CampusEntry, CampusFeed } from './feed.ts';

function put(
  component: InstanceType<typeof ICAL.Component>,
  name: string,
  date: CampusDate | undefined,
): void {
  if (!date) return;
  const property = new ICAL.Property(name, component);
  if (date.kind === 'date') {
    property.resetType('date');
    property.setValue(date.date);
  } else {
    property.resetType('date-time');
    property.setValue(date.kind === 'utc' ? date.at : date.local);
    if (date.kind === 'zoned') property.setParameter('tzid', date.tzid);
  }
  component.addProperty(property);
}

function writeEntry(entry: CampusEntry, stamp: string): InstanceType<typeof ICAL.Component> {
  const component = new ICAL.Component(entry.component === 'todo' ? 'vtodo' : 'vevent');
  const text = (name: string, value: string | number | undefined) => {
    if (value !== undefined) component.addPropertyWithValue(name, value);
  };
  text('uid', entry.uid);
  put(component, 'dtstamp', { kind: 'utc', at: stamp });
  put(component, 'recurrence-id', entry.recurrenceId);
  put(component, 'dtstart', entry.start);
  put(component, 'dtend', entry.end);
  put(component, 'due', entry.due);
  text('summary', entry.title);
  text('description', entry.description);
  text('location', entry.place);
  text('url', entry.url);
  text('status', entry.status);
  text('percent-complete', entry.percent);
  text('sequence', entry.sequence);
  if (entry.rule) component.addPropertyWithValue('rrule', ICAL.Recur.fromString(entry.rule));
  for (const date of entry.except ?? []) put(component, 'exdate', date);
  if (entry.categories?.length) {
    const categories = new ICAL.Property('categories', component);
    categories.setValues(entry.categories);
    component.addProperty(categories);
  }
  if (entry.conference) {
    const conference = component.addPropertyWithValue('conference', entry.conference.href);
    conference.setParameter('value', 'URI');
    conference.setParameter('label', entry.conference.label);
  }
  if (entry.html)
    component.addPropertyWithValue('x-alt-desc', entry.html).setParameter('fmttype', 'text/html');
  for (const trigger of entry.alarms ?? []) {
    const alarm = new ICAL.Component('valarm', component);
    alarm.addPropertyWithValue('action', 'DISPLAY');
    alarm.addPropertyWithValue('description', entry.title);
    alarm.addPropertyWithValue('trigger', ICAL.Duration.fromString(trigger));
    component.addSubcomponent(alarm);
  }
  return component;
}

/** A feed as iCalendar text (RFC 5545). `stamp` is a UTC instant for DTSTAMP. */
export function writeFeed(feed: CampusFeed, stamp: string): string {
  const calendar = new ICAL.Component('vcalendar');
  calendar.addPropertyWithValue('version', '2.0');
  calendar.addPropertyWithValue('prodid', '-//Skerrow Harbour School//Campus//EN');
  calendar.addPropertyWithValue('x-wr-calname', feed.name);
  if (feed.refresh)
    calendar
      .addPropertyWithValue('refresh-interval', ICAL.Duration.fromString(feed.refresh))
      .setParameter('value', 'DURATION');
  for (const entry of feed.entries) calendar.addSubcomponent(writeEntry(entry, stamp));
  return calendar.toString() + '\r\n';
}
