import type { ChangeView } from '../item/change.ts';
import type { Zone } from '../time/zone.ts';
import { today } from '../words/when.ts';

export interface ChangesOfDay {
  /** Day number on which it was found out */
  day: number;
  /** By calendar, in the order the latest change of each came */
  calendars: { calendarId: string; changes: ChangeView[] }[];
}

export interface ChangesByDay {
  unseen: ChangesOfDay[];
  seen: ChangesOfDay[];
  /** What to mark as seen; null where all is */
  upTo: number | null;
}

/** Changes by day and course, unseen ones first. Expects the latest first, as the server gives them. */
export function changesByDay(changes: readonly ChangeView[], viewer: Zone): ChangesByDay {
  const unseen = changes.filter((c) => !c.seen);
  return {
    unseen: byDay(unseen, viewer),
    seen: byDay(
      changes.filter((c) => c.seen),
      viewer,
    ),
    upTo: unseen.length ? Math.max(...unseen.map((c) => c.id)) : null,
  };
}

function byDay(changes: readonly ChangeView[], viewer: Zone): ChangesOfDay[] {
  const days = new Map<number, Map<string, ChangeView[]>>();
  for (const change of changes) {
    const day = today(Date.parse(change.at), viewer);
    const calendars = days.get(day) ?? new Map<string, ChangeView[]>();
    days.set(day, calendars);
    const list = calendars.get(change.calendarId);
    if (list) list.push(change);
    else calendars.set(change.calendarId, [change]);
  }
  return [...days].map(([day, calendars]) => ({
    day,
    calendars: [...calendars].map(([calendarId, list]) => ({ calendarId, changes: list })),
  }));
}
