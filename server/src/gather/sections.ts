import { LONGEST_NAME, type SplitRequest } from '@zephyrfield/core/api/schemas';
import type { Understanding } from '@zephyrfield/core/gather/entries';
import { suggestFlag } from '@zephyrfield/core/item/flag';
import type { CalendarRow, CalendarStore } from '../calendars/store.ts';
import { orderedId } from '../db/ids.ts';
import { MOST } from '../limits.ts';
import type { SourceRow } from './store.ts';

/** Which calendar each part of a source goes to, by the part's name in its feed; `''` for what names none. */
export type Sections = Record<string, string>;

/** What a calendar has in common with those it is made beside. */
type Like = Pick<CalendarRow, 'kind' | 'category' | 'zone'>;

/** Gives what a part is called in `Sections`. */
export const sectionKey = (section: string | null): string => section ?? '';

/** The calendars a source's entries go to. */
export const calendarIdsOf = ({
  calendarId,
  sections,
  rules,
}: Pick<SourceRow, 'calendarId' | 'sections' | 'rules'>): string[] =>
  rules.split ? [...new Set(Object.values(sections))] : [calendarId];

/** Tells how a source's entries are to be understood, with what each part's calendar is of. */
export function understandingOf(
  { calendarId, sections, rules }: Pick<SourceRow, 'calendarId' | 'sections' | 'rules'>,
  calendars: CalendarStore,
): Understanding {
  const calendar = calendars.byId(calendarId)?.kind ?? 'course';
  if (!rules.split) return { calendar, rules };
  return {
    calendar,
    rules,
    sections: Object.fromEntries(
      Object.entries(sections).map(([section, id]) => [section, calendars.byId(id)?.kind ?? calendar]),
    ),
  };
}

/** Makes a calendar beside the learner's others, with a flag unlike theirs. */
export function addCalendar(
  calendars: CalendarStore,
  learnerId: string,
  name: string,
  like: Like,
  now: number,
  wanted: Partial<Pick<CalendarRow, 'colour' | 'flag'>> = {},
): CalendarRow {
  const { kind, category, zone } = like;
  const suggested = suggestFlag(name, calendars.ofLearner(learnerId));
  const position = calendars.nextPosition(learnerId);
  return calendars.add({
    id: orderedId(now),
    learnerId,
    name: name.slice(0, LONGEST_NAME),
    kind,
    category,
    zone,
    colour: wanted.colour ?? suggested.colour,
    flag: wanted.flag ?? suggested.flag,
    position,
    createdAt: now,
  });
}

/**
 * The calendars for the parts of a split: parts of one name share one; a calendar of `there` that has a name
 * already is kept. To be called inside a transaction.
 */
export function calendarsFor(
  split: SplitRequest,
  calendars: CalendarStore,
  learnerId: string,
  there: readonly CalendarRow[],
  like: Like,
  now: number,
): Sections {
  const same = (a: string, b: string) => a.trim().toLowerCase() === b.trim().toLowerCase();
  const known = [...there];
  const sections: Sections = {};
  for (const { section, name, colour, flag } of split.sections) {
    let calendar = known.find((c) => same(c.name, name));
    if (!calendar)
      known.push(
        (calendar = addCalendar(calendars, learnerId, name, like, now, {
          ...(colour ? { colour } : {}),
          ...(flag ? { flag } : {}),
        })),
      );
    sections[sectionKey(section)] = calendar.id;
  }
  return sections;
}

export interface SectionFinder {
  calendarOf(section: string | null): string;
  /** Sections met that had no calendar yet; each has been given one */
  readonly fresh: string[];
  readonly sections: Sections;
}

/**
 * Finds the calendar of each part of a source as its entries come in; a part that is new is given one of its
 * own, as long as the schedule may have one more; beyond that its entries stay in the source's calendar.
 * @param given told after a part was given one
 */
export function sectionFinder(
  {
    learnerId,
    calendarId,
    sections,
    rules,
    feedName,
  }: Pick<SourceRow, 'learnerId' | 'calendarId' | 'sections' | 'rules' | 'feedName'>,
  calendars: CalendarStore,
  now: number,
  given?: (found: Pick<SectionFinder, 'sections' | 'fresh'>) => void,
): SectionFinder {
  const found: Sections = { ...sections };
  const fresh: string[] = [];
  let room: number | undefined;
  return {
    fresh,
    sections: found,
    calendarOf(section) {
      if (!rules.split) return calendarId;
      const key = sectionKey(section);
      let id = found[key];
      if (id === undefined) {
        room ??= MOST.calendars - calendars.ofLearner(learnerId).length;
        if (room-- <= 0) return calendarId;
        const like = calendars.byId(calendarId)!;
        id = found[key] = addCalendar(calendars, learnerId, section ?? feedName ?? like.name, like, now).id;
        fresh.push(key);
        given?.({ sections: found, fresh });
      }
      return id;
    },
  };
}
