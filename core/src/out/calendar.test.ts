import fc from 'fast-check';
import ICAL from 'ical.js';
import { convertIcsCalendar } from 'ts-ics';
import { DUBLIN, calendar, event, read, todo } from '../../test/feeds';
import { MADE, NOW, SPAN, scheduleOf, sent } from '../../test/going-out';
import { occurrencesOf } from '../gather/occurrences';
import { keyOf } from '../item/occurrence';
import { instantIn } from '../time/when';

/** Every time that something stands at, as our own reader reads it: title and instant. */
const timesIn = (text: string): string[] => {
  const { items, zones } = read(text);
  return occurrencesOf(items, { ...SPAN, viewer: DUBLIN, zones })
    .map((o) => `${new Date(instantIn(o.due ?? o.start, DUBLIN)).toISOString()} ${o.item.title}`)
    .sort();
};

/** The same as ical.js works it out by itself, for what it takes as an event. */
function timesByLibrary(text: string): string[] {
  const root = new ICAL.Component(ICAL.parse(text) as unknown[]);
  for (const zone of root.getAllSubcomponents('vtimezone'))
    ICAL.TimezoneService.register(new ICAL.Timezone(zone));
  const components = root.getAllSubcomponents('vevent');
  const masters = components.filter((c) => !c.hasProperty('recurrence-id'));
  return masters
    .flatMap((master) => {
      const whole = new ICAL.Event(master);
      if (!whole.isRecurring()) return [`${whole.startDate.toJSDate().toISOString()} ${whole.summary}`];
      for (const c of components)
        if (c.hasProperty('recurrence-id') && c.getFirstPropertyValue('uid') === whole.uid)
          whole.relateException(c);
      const dates = whole.iterator();
      const found: string[] = [];
      for (let next = dates.next(); next && next.toJSDate().getTime() < SPAN.to; next = dates.next()) {
        const { startDate, item } = whole.getOccurrenceDetails(next);
        found.push(`${startDate.toJSDate().toISOString()} ${item.summary}`);
      }
      return found;
    })
    .sort();
}

const LESSON = [
  event(
    'UID:lesson',
    'SUMMARY:Shed, lesson',
    'DTSTART;TZID=Europe/Dublin:20260907T090000',
    'DTEND;TZID=Europe/Dublin:20260907T103000',
    'RRULE:FREQ=WEEKLY;BYDAY=MO,WE;UNTIL=20261218T235900Z',
    'EXDATE;TZID=Europe/Dublin:20261026T090000',
    'LOCATION:Slip 2\\, shed',
    'X-SLIP-SIDE;X-FROM="a:b":port\\, aft',
    'GEO:53.1;-9.2',
  ),
  event(
    'UID:lesson',
    'SUMMARY:Shed, lesson (pool)',
    'RECURRENCE-ID;TZID=Europe/Dublin:20261014T090000',
    'DTSTART;TZID=Europe/Dublin:20261015T110000',
    'DTEND;TZID=Europe/Dublin:20261015T123000',
  ),
];
const HARBOUR = [
  'BEGIN:VTIMEZONE',
  'TZID:Harbour',
  'BEGIN:STANDARD',
  'DTSTART:19700101T000000',
  'TZOFFSETFROM:+0345',
  'TZOFFSETTO:+0345',
  'END:STANDARD',
  'END:VTIMEZONE',
  event(
    'UID:tide',
    'SUMMARY:Tide walk',
    'DTSTART;TZID=Harbour:20261009T090000',
    'DTEND;TZID=Harbour:20261009T110000',
    'CATEGORIES:Lesson',
    'RRULE:FREQ=DAILY;COUNT=3',
  ),
];
const WORK = [
  event(
    'UID:log',
    'SUMMARY:Shed log',
    'DTSTART:20261008T150000Z',
    'RRULE:FREQ=WEEKLY;COUNT=4',
    'CATEGORIES:Assignment',
    'DESCRIPTION:Clamps;\\nand cramps',
    'ATTACH;FILENAME="plan a.pdf":https://boat.example/plan.pdf',
    'URL:https://boat.example/log',
  ),
  todo('UID:plan', 'SUMMARY:Keel plan', 'DUE;TZID=Europe/Dublin:20261012T160000', 'PERCENT-COMPLETE:40'),
  event(
    'UID:essay',
    'SUMMARY:Essay draft assignment',
    'DTSTART;VALUE=DATE:20261014',
    'CATEGORIES:Assignment',
  ),
];
const FEED = calendar(...HARBOUR, ...LESSON, ...WORK);

test('what goes out is read back with the same times, by this reader and by another', () => {
  const text = sent(scheduleOf(FEED), { workAs: 'todo' });
  expect(timesIn(text)).toEqual(timesIn(FEED));
  const lessons = sent(scheduleOf(calendar(...HARBOUR, ...LESSON)));
  expect(timesByLibrary(lessons)).toEqual(timesIn(calendar(...HARBOUR, ...LESSON)));
});

test('lines have at most 75 octets and end with CR and LF; what nothing is known of goes along', () => {
  const text = sent(
    scheduleOf(
      calendar(...LESSON, event('UID:u', `SUMMARY:${'Ærfuglø '.repeat(40)}`, 'DTSTART:20261008T150000Z')),
    ),
  );
  const lines = text.split('\r\n');
  expect(text).not.toMatch(/[^\r]\n|\r[^\n]/);
  expect(Math.max(...lines.map((line) => Buffer.byteLength(line)))).toBeLessThanOrEqual(75);
  expect(text).toContain('X-SLIP-SIDE;X-FROM="a:b":port\\, aft');
  expect(text).toContain('GEO:53.1;-9.2');
  expect(text).toContain('BEGIN:VTIMEZONE\r\nTZID:Europe/Dublin');
  expect(text).toContain('REFRESH-INTERVAL;VALUE=DURATION:PT1H');
  expect(text.match(/^COLOR:firebrick\r$/gm)).toHaveLength(4);
});

test('a strict reader takes every form of it', () => {
  for (const workAs of ['todo', 'day', 'hour'] as const) {
    const text = sent(scheduleOf(FEED), { workAs, reminders: true, aims: true, sittings: true });
    const { events = [], todos = [], timezones = [] } = convertIcsCalendar(undefined, text);
    expect(timezones.map((zone) => zone.id)).toContain('Europe/Dublin');
    expect(events.filter((e) => e.summary === 'Shed, lesson')).toHaveLength(1);
    expect(todos).toHaveLength(workAs === 'todo' ? 3 : 0);
    for (const each of [...events, ...todos]) expect(each.stamp.date.getTime()).toBe(MADE + 5_000);
  }
});

test('work stands on its day with its hour in words, or ends at its hour', () => {
  const onDay = timesIn(sent(scheduleOf(FEED), { kinds: ['due'] }));
  expect(onDay).toContain('2026-10-11T23:00:00.000Z Keel plan, due 16:00');
  expect(onDay.filter((line) => line.includes('Shed log'))).toHaveLength(4);
  const atHour = sent(scheduleOf(FEED), { kinds: ['due'], workAs: 'hour' });
  expect(atHour).toContain('DTSTART;TZID=Europe/Dublin:20261012T153000');
  expect(atHour).toContain('DTEND;TZID=Europe/Dublin:20261012T160000');
  expect(atHour).toContain('DTSTART;VALUE=DATE:20261014');
  expect(atHour).not.toContain('lesson');
});

test('what is finished is done, on its date alone, or stays out', () => {
  const schedule = scheduleOf(FEED);
  const dates = schedule.dates.map((o) =>
    o.itemId === 'log' && o.recurrenceId === '2026-10-15T15:00:00Z'
      ? { ...o, finished: true, finishedAt: '2026-10-14T09:00:00Z' }
      : o,
  );
  const text = sent({ ...schedule, dates }, { workAs: 'todo' });
  expect(text).toContain('COMPLETED:20261014T090000Z');
  expect(text.match(/STATUS:COMPLETED/g)).toHaveLength(1);
  expect(timesIn(text)).toEqual(timesIn(FEED));
  const open = sent({ ...schedule, dates }, { workAs: 'todo', finished: false });
  expect(timesIn(open)).toEqual(timesIn(FEED).filter((line) => !line.startsWith('2026-10-15T15')));
  expect(sent({ ...schedule, dates })).toContain('SUMMARY:Done: Shed log');
});

test('titles and times say nothing else; busy hours say no word of anything', () => {
  const titles = sent(scheduleOf(FEED), { detail: 'titles' });
  for (const word of ['Slip 2', 'boat.example', 'cramps', 'X-SLIP', 'CATEGORIES'])
    expect(titles).not.toContain(word);
  expect(titles).toContain('Shed\\, lesson');
  const busy = sent(scheduleOf(FEED), { detail: 'busy' });
  for (const word of ['lesson', 'Keel', 'log', 'Tide', 'Essay', 'UID:lesson'])
    expect(busy).not.toContain(word);
  expect(busy.match(/SUMMARY:Busy/g)!.length).toBe(
    scheduleOf(FEED).dates.filter((o) => o.kind === 'lesson' || o.kind === 'meeting').length,
  );
});

test('what is called off is said for a while, and then no more', () => {
  const { items, ...schedule } = scheduleOf(FEED);
  const gone = (goneAt: number) => ({ ...schedule, dates: [], items: items.map((i) => ({ ...i, goneAt })) });
  const told = sent(gone(NOW - 86_400_000));
  expect(told.match(/STATUS:CANCELLED/g)).toHaveLength(6);
  expect(sent(gone(NOW - 31 * 86_400_000))).not.toContain('BEGIN:VEVENT');
});

test('it stays the same text until something of it changes, and then is newer', () => {
  const schedule = scheduleOf(FEED);
  expect(sent(schedule, {}, { now: NOW + 3_600_000 })).toBe(sent(schedule));
  const later = { ...schedule, items: schedule.items.map((i) => ({ ...i, updatedAt: MADE + 60_000 })) };
  expect(sent(later)).toContain('SEQUENCE:60');
});

test('reminders go along where they are wanted: of a series ahead of each date, of one at its moment', () => {
  const schedule = scheduleOf(FEED);
  expect(sent(schedule)).not.toContain('VALARM');
  const text = sent(schedule, { workAs: 'todo', reminders: true });
  expect(text).toContain('TRIGGER:-PT15M');
  expect(text).toContain('TRIGGER;RELATED=END:-PT3H');
  const [plan] = schedule.dates.filter((o) => o.itemId === 'plan');
  const own = { ...schedule, dateReminders: { [keyOf(plan!)]: [{ kind: 'ahead' as const, minutes: 60 }] } };
  expect(sent(own, { reminders: true })).toContain('TRIGGER;VALUE=DATE-TIME:20261012T140000Z');
});

test('a repeated to-do begins before it is due, and all that is counted from its beginning moves along', () => {
  const feed = calendar(
    ...HARBOUR,
    event(
      'UID:hour',
      'SUMMARY:Tide report due',
      'DTSTART;TZID=Europe/Dublin:20261001T160000',
      'RRULE:FREQ=WEEKLY;BYDAY=TH;UNTIL=20261112T160000Z',
      'EXDATE;TZID=Europe/Dublin:20261015T160000',
    ),
    event(
      'UID:hour',
      'RECURRENCE-ID;TZID=Europe/Dublin:20261022T160000',
      'SUMMARY:Tide report due, later',
      'DTSTART;TZID=Europe/Dublin:20261023T090000',
    ),
    event(
      'UID:day',
      'SUMMARY:Deck essay due',
      'DTSTART;VALUE=DATE:20261005',
      'RRULE:FREQ=WEEKLY;UNTIL=20261102',
      'EXDATE;VALUE=DATE:20261019',
    ),
  );
  const text = sent(scheduleOf(feed), { workAs: 'todo' });
  const onDays = (of: string) => timesIn(of).map((line) => line.replace(/T\d\d:\d\d:\S+ Deck/, ' Deck'));
  const dayOf = (of: string) => onDays(of).filter((line) => !line.includes('Deck'));
  expect(dayOf(text)).toEqual(dayOf(feed));
  // Work of a day is due as that day ends.
  expect(timesIn(text).filter((line) => line.includes('Deck'))).toEqual([
    '2026-10-05T22:59:00.000Z Deck essay due',
    '2026-10-12T22:59:00.000Z Deck essay due',
    '2026-10-26T23:59:00.000Z Deck essay due',
    '2026-11-02T23:59:00.000Z Deck essay due',
  ]);
  const { todos = [] } = convertIcsCalendar(undefined, text);
  expect(todos).toHaveLength(3);
  for (const { start, due } of todos) expect(start!.date.getTime()).toBeLessThan(due!.date.getTime());
});

test('a rule that ends at a nonsense, or as time does, goes out all the same', () => {
  for (const until of ['99991231T235959Z', '00500101T000000Z', '20269999T999999Z', '99991231']) {
    const rude = event(
      'UID:rude',
      'SUMMARY:Tide report due',
      'DTSTART;TZID=Europe/Dublin:20261001T160000',
      `RRULE:FREQ=WEEKLY;UNTIL=${until}`,
    );
    const text = sent(scheduleOf(calendar(...HARBOUR, rude)), { workAs: 'todo' });
    expect(() => convertIcsCalendar(undefined, text)).not.toThrow();
  }
});

test('reminders of a series of whole days come at hours of people, never at midnight', () => {
  const feed = (kind: string) =>
    calendar(event('UID:d', `SUMMARY:${kind}`, 'DTSTART;VALUE=DATE:20261005', 'RRULE:FREQ=WEEKLY;COUNT=4'));
  const triggers = (kind: string, workAs: 'todo' | 'day' = 'todo') =>
    sent(scheduleOf(feed(kind)), { workAs, reminders: true }).match(/^TRIGGER.*(?=\r)/gm);
  // The evening before; and of work three hours before its day is over.
  expect(triggers('Boat trip')).toContain('TRIGGER:-PT6H');
  expect(triggers('Deck essay due')).toContain('TRIGGER;RELATED=END:-PT3H');
});

test('whatever a title says, it stays in its line', () => {
  const feeds = fc.string({ unit: 'grapheme', minLength: 1, maxLength: 200 });
  fc.assert(
    fc.property(feeds, fc.constantFrom('todo', 'day', 'hour'), (title, workAs) => {
      const { items, dates, ...rest } = scheduleOf(FEED);
      const text = sent(
        { ...rest, items: items.map((i) => ({ ...i, title })), dates: dates.map((d) => ({ ...d, title })) },
        { workAs, reminders: true },
      );
      expect(read(text).items).toHaveLength((text.match(/^BEGIN:V(EVENT|TODO)\r$/gm) ?? []).length);
      expect(text.match(/^(BEGIN|END):/gm)!.length % 2).toBe(0);
    }),
  );
});
