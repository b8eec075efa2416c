import type { SplitRequest } from '@zephyrfield/core/api/schemas';
import type { Understanding } from '@zephyrfield/core/gather/entries';
import { suggestFlag } from '@zephyrfield/core/item/flag';
import type { CalendarRow, CalendarStore } from '../calendars/store.ts';
import { orderedId } from '../db/ids.ts';
import type { SourceRow } from './store.ts';

/** Which calendar each part of a source goes to, by the part's name in its feed; `''` for what names none. */
export type Parts = Record<string, string>;

/** What a calendar has in common with those it is made beside. */
type Like = Pick<CalendarRow, 'kind' | 'category' | 'zone'>;

/** What a part is called in `Parts`. */
export const partKey = (part: string | null): string => part ?? '';

/** The calendars a source's entries go to. */
export const calendarIdsOf = ({ calendarId, parts, rules }: Pick<SourceRow, 'calendarId' | 'parts' | 'rules'>): string[] => (rules.split ? [...new Set(Object.values(parts))] : [calendarId]);

/** How a source's entries are to be understood, with what each part's calendar is of. */
export function understandingOf({ calendarId, parts, rules }: Pick<SourceRow, 'calendarId' | 'parts' | 'rules'>, calendars: CalendarStore): Understanding {
  const calendar = calendars.byId(calendarId)?.kind ?? 'course';
  if (!rules.split) return { calendar, rules };
  return { calendar, rules, parts: Object.fromEntries(Object.entries(parts).map(([part, id]) => [part, calendars.byId(id)?.kind ?? calendar])) };
}

/** Makes a calendar beside the learner's others, with a flag unlike theirs. */
export function addCalendar(calendars: CalendarStore, learnerId: string, name: string, like: Like, now: number, wanted: Partial<Pick<CalendarRow, 'colour' | 'flag'>> = {}): CalendarRow {
  const { kind, category, zone } = like;
  const suggested = suggestFlag(name, calendars.ofLearner(learnerId));
  const position = calendars.nextPosition(learnerId);
  return calendars.add({ id: orderedId(now), learnerId, name, kind, category, zone, colour: wanted.colour ?? suggested.colour, flag: wanted.flag ?? suggested.flag, position, createdAt: now });
}

/**
 * The calendars for the parts of a split: parts of one name share one; a calendar of `there` that has a name already is
 * kept. To be called inside a transaction.
 */
export function calendarsFor(split: SplitRequest, calendars: CalendarStore, learnerId: string, there: readonly CalendarRow[], like: Like, now: number): Parts {
  const same = (a: string, b: string) => a.trim().toLowerCase() === b.trim().toLowerCase();
  const known = [...there];
  const parts: Parts = {};
  for (const { part, name, colour, flag } of split.parts) {
    let calendar = known.find((c) => same(c.name, name));
    if (!calendar) known.push((calendar = addCalendar(calendars, learnerId, name, like, now, { ...(colour ? { colour } : {}), ...(flag ? { flag } : {}) })));
    parts[partKey(part)] = calendar.id;
  }
  return parts;
}

export interface PartFinder {
  calendarOf(part: string | null): string;
  /** Parts met that had no calendar yet; each has been given one */
  readonly fresh: string[];
  readonly parts: Parts;
}

/** Finds the calendar of each part of a source as its entries come in; a part that is new is given one of its own. */
export function partFinder(
  { learnerId, calendarId, parts, rules, feedName }: Pick<SourceRow, 'learnerId' | 'calendarId' | 'parts' | 'rules' | 'feedName'>,
  calendars: CalendarStore,
  now: number,
): PartFinder {
  const found: Parts = { ...parts };
  const fresh: string[] = [];
  return {
    fresh,
    parts: found,
    calendarOf(part) {
      if (!rules.split) return calendarId;
      const key = partKey(part);
      let id = found[key];
      if (id === undefined) {
        const like = calendars.byId(calendarId)!;
        id = found[key] = addCalendar(calendars, learnerId, part ?? feedName ?? like.name, like, now).id;
        fresh.push(key);
      }
      return id;
    },
  };
}
