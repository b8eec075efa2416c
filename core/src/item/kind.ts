/** Kind of an item. */
export const ITEM_KINDS = [
  'assignment',
  'test',
  'discussion',
  'reading',
  'project',
  'practice',
  'meeting',
  'lesson',
  'trip',
  'reminder',
  'dayOff',
] as const;
export type ItemKind = (typeof ITEM_KINDS)[number];

/** Way in which a piece of work is handed in. `nothing`: there is nothing to hand in. */
export const HAND_IN_WAYS = ['online', 'paper', 'mail', 'inClass', 'nothing', 'unknown'] as const;
export type HandInWay = (typeof HAND_IN_WAYS)[number];

/** Purpose of a calendar; `own`: a category of the person's own naming. */
export const CALENDAR_KINDS = ['course', 'group', 'school', 'home', 'own'] as const;
export type CalendarKind = (typeof CALENDAR_KINDS)[number];

const WORK: ReadonlySet<ItemKind> = new Set<ItemKind>([
  'assignment',
  'test',
  'discussion',
  'reading',
  'project',
  'practice',
]);

/** Tells whether a kind is work with a due date. The others are somewhere to be, or something to know. */
export const isWork = (kind: ItemKind): boolean => WORK.has(kind);

/**
 * Shape of an item: a ticket with a stub is handed in, a plain ticket is done but not handed in, a block
 * is somewhere to be, a ribbon is a stretch of days, a note is only to know, a sitting is a strip torn from its ticket.
 */
export type Shape = 'ticket' | 'plainTicket' | 'block' | 'ribbon' | 'note' | 'sitting';

export function shapeOf(item: { kind: ItemKind; handIn: HandInWay; allDay: boolean; days: number }): Shape {
  if (isWork(item.kind)) return item.handIn === 'nothing' ? 'plainTicket' : 'ticket';
  if (item.kind === 'dayOff' || (item.allDay && item.days > 1)) return 'ribbon';
  if (item.kind === 'reminder') return 'note';
  return 'block';
}
