/** What an item is. */
export const SORTS = ['assignment', 'test', 'discussion', 'reading', 'project', 'practice', 'meeting', 'lesson', 'trip', 'reminder', 'dayOff'] as const;
export type Sort = (typeof SORTS)[number];

/** How a piece of work is handed in. `nothing`: there is nothing to hand in. */
export const HAND_IN_WAYS = ['online', 'paper', 'mail', 'inClass', 'nothing', 'unknown'] as const;
export type HandInWay = (typeof HAND_IN_WAYS)[number];

/** What a calendar is for; `own`: a category of the person's own naming. */
export const CALENDAR_SORTS = ['course', 'group', 'school', 'home', 'own'] as const;
export type CalendarSort = (typeof CALENDAR_SORTS)[number];

const WORK: ReadonlySet<Sort> = new Set<Sort>(['assignment', 'test', 'discussion', 'reading', 'project', 'practice']);

/** Whether a sort is work with a due date. The others are somewhere to be, or something to know. */
export const isWork = (sort: Sort): boolean => WORK.has(sort);

/**
 * How an item is drawn: a ticket with a stub is handed in, a plain ticket is done but not handed in, a block is
 * somewhere to be, a ribbon is a stretch of days, a note is only to know.
 */
export type Shape = 'ticket' | 'plainTicket' | 'block' | 'ribbon' | 'note';

export function shapeOf(item: { sort: Sort; handIn: HandInWay; allDay: boolean; days: number }): Shape {
  if (isWork(item.sort)) return item.handIn === 'nothing' ? 'plainTicket' : 'ticket';
  if (item.sort === 'dayOff' || (item.allDay && item.days > 1)) return 'ribbon';
  if (item.sort === 'reminder') return 'note';
  return 'block';
}
