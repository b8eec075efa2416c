import type { Alarm, FeedItem } from '../ical/feed-item.ts';
import type { Written } from '../ical/property.ts';
import { alarmOf } from '../ical/write.ts';
import type { WrittenZones } from '../ical/zone-blocks.ts';
import { dueOf } from '../item/dates.ts';
import { keyOf, type OccurrenceView } from '../item/occurrence.ts';
import { momentsOf } from '../notify/moments.ts';
import { rulesFor, type RemindRule } from '../notify/rules.ts';
import { parseLocal } from '../time/civil.ts';
import { instantOf, localIn } from '../time/when.ts';
import type { Viewer } from '../words/when.ts';
import { endOf } from './as-todo.ts';
import { faceOf, uidOf, type OutItem, type OutSchedule } from './going-out.ts';
import type { ShareRules } from './share.ts';

/** Facts that the reminders of something going out are worked out from. */
interface Reminding {
  schedule: Pick<OutSchedule, 'calendars' | 'reminders' | 'dateReminders'>;
  rules: ShareRules;
  viewer: Viewer;
  now: number;
}

/** The rules that hold for an item's reminders, or its feed's own alarms where these count instead. */
function remindersOf(item: OutItem, date: OccurrenceView | undefined, { schedule }: Reminding) {
  const calendar = schedule.calendars.find(({ id }) => id === item.calendarId);
  const rules = rulesFor(
    { kind: item.kind, calendarKind: calendar?.kind ?? 'course' },
    {
      item: (date && schedule.dateReminders[keyOf(date)]) ?? null,
      calendar: calendar?.reminders ?? null,
      learner: schedule.reminders,
    },
  );
  return { rules, feeds: calendar?.alarms === 'use' };
}

/** A date's reminders, each at its moment; what is over was dealt with then. */
export function momentAlarms(
  date: OccurrenceView,
  item: OutItem,
  out: Reminding,
  uid: string,
  zones: WrittenZones,
): Written[] {
  const { rules, feeds } = remindersOf(item, date, out);
  const alarms = feeds ? faceOf(date, item).alarms : [];
  return momentsOf({ ...date, finished: false, hidden: false }, rules, out.viewer, alarms)
    .filter(({ of }) => of !== 'pastDue' && (of !== 'aim' || out.rules.aims))
    .map(({ at }, n) => {
      const done = date.finishedAt ? Date.parse(date.finishedAt) : Infinity;
      const dealt = Math.min(done, at <= out.now ? at : Infinity);
      return alarmOf(
        { action: 'DISPLAY', trigger: { at: instantOf(at) }, description: date.title },
        { uid: `${n}-${uid}`, title: date.title, acknowledged: dealt === Infinity ? null : dealt, zones },
      );
    });
}

/** Reminders of what goes out whole: of one date at their moments, of a series so long ahead of each. */
export function alarmsOf(
  face: FeedItem,
  item: OutItem,
  date: OccurrenceView | undefined,
  out: Reminding,
  zones: WrittenZones,
): Written[] {
  if (date) return momentAlarms(date, item, out, uidOf(item.id), zones);
  const { rules, feeds } = remindersOf(item, undefined, out);
  const list = feeds ? face.alarms : aheadOf(rules, face, item, out.viewer);
  return list.map((alarm, n) =>
    // Whatever else a feed asks for, a program only shows it.
    alarmOf(
      { ...alarm, action: 'DISPLAY' },
      { uid: `${n}-${uidOf(item.id)}`, title: face.title, acknowledged: null, zones },
    ),
  );
}

/** Gives what rules say of an entry as alarms of its own, for whoever follows it; a moment is one of a single date. */
export const alarmsFrom = (
  rules: readonly RemindRule[],
  face: FeedItem,
  item: Pick<OutItem, 'kind' | 'handIn' | 'title'>,
  viewer: Viewer,
): Alarm[] => [
  ...rules.flatMap((rule) =>
    rule.kind === 'moment'
      ? [
          {
            action: 'DISPLAY',
            trigger: { at: instantOf(viewer.toInstant(parseLocal(rule.local))) },
            description: null,
          },
        ]
      : [],
  ),
  ...aheadOf(rules, face, { ofDeadlines: false, ...item }, viewer),
];

/** Works out reminders of a series, as so long before or after each of its dates, by its first. */
function aheadOf(
  rules: readonly RemindRule[],
  face: FeedItem,
  { kind, handIn, title, ofDeadlines }: Pick<OutItem, 'kind' | 'handIn' | 'title' | 'ofDeadlines'>,
  viewer: Viewer,
): Alarm[] {
  const start = face.start ?? face.due;
  const each = rules.filter((rule) => rule.kind !== 'moment');
  if (!start || !each.length) return [];
  const end = endOf(face);
  const due = dueOf({ start, end, due: face.due }, kind, title, ofDeadlines);
  const first = { kind, handIn, status: 'confirmed', start, end, due, aim: null } as const;
  const towards = face.component === 'VTODO' ? face.due : null;
  const base = localIn(towards ?? start, viewer);
  return momentsOf({ ...first, finished: false, hidden: false }, each, viewer)
    .filter(({ of }) => of !== 'pastDue')
    .map(({ at }) => ({
      action: 'DISPLAY',
      trigger: {
        relativeTo: towards ? 'end' : 'start',
        length: { days: 0, ms: at + viewer.offsetAt(at) - base },
      },
      description: null,
    }));
}
