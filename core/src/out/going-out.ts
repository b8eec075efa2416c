import type { Rules } from '../gather/rules.ts';
import type { EntryContent } from '../ical/content.ts';
import type { FeedItem } from '../ical/feed-item.ts';
import type { OwnZones } from '../ical/zones.ts';
import { busyView, takesTime } from '../item/busy.ts';
import type { Colour, Flag } from '../item/flag.ts';
import type { CalendarKind, HandInWay, ItemKind } from '../item/kind.ts';
import { keyOf, type OccurrenceView } from '../item/occurrence.ts';
import type { RemindRule, RemindSet } from '../notify/rules.ts';
import { sittingEntries, sittingOccurrence } from '../plan/plan-days.ts';
import type { RunUpOf } from '../plan/run-up.ts';
import { hash } from '../lib/hash.ts';
import { recurrenceIdOf } from '../time/when.ts';
import { shareKindOf, type ShareRules } from './share.ts';

/** A calendar as far as it matters to what goes out of it. */
export interface OutCalendar {
  id: string;
  name: string;
  kind: CalendarKind;
  colour: Colour;
  flag: Flag;
  reminders: Partial<RemindSet> | null;
  alarms: 'use' | 'ignore';
}

/** An item with what its feed or a person has written of it. */
export interface OutItem {
  id: string;
  calendarId: string;
  kind: ItemKind;
  handIn: HandInWay;
  title: string;
  content: EntryContent;
  /** How its source is to be understood, the zones it has of its own, and whether it is one of deadlines */
  rules: Rules;
  zones: OwnZones;
  ofDeadlines: boolean;
  /** Instants in milliseconds: made, last changed (what people added counts), and since when it is called off */
  createdAt: number;
  updatedAt: number;
  goneAt: number | null;
}

/** A learner's schedule as far as it may go out; what is kept from whoever made the link is not in it. */
export interface OutSchedule {
  learnerId: string;
  name: string;
  zone: string;
  reminders: Partial<RemindSet> | null;
  calendars: OutCalendar[];
  items: OutItem[];
  dates: OccurrenceView[];
  /** What somebody said about reminders of single dates, by the date's key */
  dateReminders: Record<string, RemindRule[]>;
  runUps: RunUpOf[];
}

/** Time what was called off still goes out as such, so that whoever follows hears of it. */
export const CALLED_OFF_STAYS = 30 * 86_400_000;

/** Tells whether something goes out by a link: by what it is, and by its calendar. */
export const goesOut = (
  { kind, calendarId }: { kind: ItemKind; calendarId: string },
  { kinds, calendars }: ShareRules,
): boolean => kinds.includes(shareKindOf(kind)) && (calendars === null || calendars.includes(calendarId));

/**
 * Every date that goes out by a link, with as much of it as may be seen: what a page shows of it, and whoever looks at
 * it as the others do.
 * @param salt makes names of what is busy that tell nothing of it
 */
export function datesGoingOut(schedule: OutSchedule, rules: ShareRules, salt: string): OccurrenceView[] {
  const dates = schedule.dates.filter((o) => goesOut(o, rules) && (rules.finished || !o.finished));
  if (rules.detail === 'busy')
    return dates.filter(takesTime).map((o) => busyView(hash(`${salt} ${keyOf(o)}`), schedule.learnerId, o));
  const sittings = rules.sittings ? sittingsGoingOut(schedule, rules) : [];
  return [...dates.map((o) => reduced(o, rules)), ...sittings];
}

/** The sittings of work that goes out. */
export const sittingsGoingOut = ({ dates, runUps }: OutSchedule, rules: ShareRules): OccurrenceView[] =>
  sittingEntries({ occurrences: dates.filter((o) => goesOut(o, rules)), runUps })
    .filter(({ sitting }) => sitting.state === 'planned')
    .map((entry) => ({ ...sittingOccurrence(entry), ...NOBODYS }));

/** A date with as much as may be seen; nothing that people have for themselves goes out. */
function reduced(o: OccurrenceView, { detail, aims }: ShareRules): OccurrenceView {
  return {
    ...o,
    ...NOBODYS,
    alsoIn: [],
    place: detail === 'everything' ? o.place : '',
    aim: aims ? o.aim : null,
  };
}

/** Without what people have for themselves, and without anything to change it by. */
const NOBODYS = {
  own: false,
  estimate: null,
  hidden: false,
  colour: null,
  position: null,
  version: 0,
  personVersion: 0,
} as const;

/** The UID of what has this id here; it is the same in all that goes out (RFC 5545 3.8.4.7). */
export const uidOf = (id: string): string => `${id}@zephyrfield`;

/** Gives what is written about one date: its own override, else what holds for all. */
export function faceOf(
  { recurrenceId }: OccurrenceView,
  { content: { master, overrides } }: OutItem,
): FeedItem {
  const own = overrides.find((o) => o.recurrenceId && recurrenceIdOf(o.recurrenceId) === recurrenceId);
  return (own ?? master ?? overrides[0])!;
}
