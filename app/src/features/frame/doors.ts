import Anchor from 'lucide-react-native/icons/anchor';
import CalendarDays from 'lucide-react-native/icons/calendar-days';
import ListChecks from 'lucide-react-native/icons/list-checks';
import Newspaper from 'lucide-react-native/icons/newspaper';
import Sunset from 'lucide-react-native/icons/sunset';
import type { IconType } from '@/ui/button';
import type { Address } from '@/places';

/** One of the ways to look at what is behind a door. */
export interface Room {
  href: Address;
  words: string;
  /** Parameter of the address, and its value, that tells it from another room at the same address */
  asked?: readonly [name: 'view' | 'show', value: string];
  /** Only for who looks after several learners */
  isForSeveral?: boolean;
}

/** One of the five doors, or oneself. */
export interface Door {
  href: Address;
  words: string;
  icon: IconType | null;
  rooms: readonly Room[];
  /** Places behind it that are opened from within, with their names */
  holds: readonly (readonly [path: string, words: string])[];
}

export const DOORS: readonly Door[] = [
  { href: '/today', words: 'Today', icon: Sunset, rooms: [], holds: [] },
  { href: '/calendar', words: 'Calendar', icon: CalendarDays, rooms: [], holds: [['/hidden', 'Hidden']] },
  {
    href: '/todo',
    words: 'To-do',
    icon: ListChecks,
    rooms: [
      { href: '/todo', words: 'list' },
      { href: '/plan', words: 'evenings' },
      { href: '/plan?view=weeks', words: 'weeks', asked: ['view', 'weeks'] },
      { href: '/plan?view=progress', words: 'progress', asked: ['view', 'progress'] },
    ],
    holds: [],
  },
  {
    href: '/news',
    words: 'News',
    icon: Newspaper,
    rooms: [
      { href: '/news', words: 'all' },
      { href: '/changes', words: 'changes' },
      { href: '/news?show=reminders', words: 'reminders', asked: ['show', 'reminders'] },
      { href: '/notes', words: 'notes' },
    ],
    holds: [
      ['/notices', 'News'],
      ['/day-sheet', 'Day sheet'],
    ],
  },
  {
    href: '/crew',
    words: 'Crew',
    icon: Anchor,
    rooms: [
      { href: '/table', words: 'table', isForSeveral: true },
      { href: '/crew', words: 'people' },
      { href: '/sharing', words: 'sharing' },
      { href: '/open-times', words: 'open times' },
      { href: '/for-others', words: 'calendars for others' },
    ],
    holds: [],
  },
];

/** Oneself: one's cleat leads there. */
export const YOU: Door = {
  href: '/you',
  words: 'You',
  icon: null,
  rooms: [],
  holds: [
    ['/account', 'Your account'],
    ['/settings', 'Settings'],
    ['/notice-settings', 'Reminders and mail'],
    ['/gather/follow', 'Follow a link'],
    ['/gather/files', 'Read files'],
    ['/gather', 'Gather'],
    ['/outline', 'Read an outline'],
    ['/help', 'Help and keys'],
  ],
};

/** Gives what is asked of an address beside its path. */
export type Asked = Partial<Record<string, string | string[]>>;

const pathOf = (href: string) => href.split('?')[0]!;

const isIn = (path: string, place: string) => path === place || path.startsWith(`${place}/`);

/** Finds the door behind which a place is. */
export const doorOf = (path: string): Door | undefined =>
  [...DOORS, YOU].find(
    ({ href, rooms, holds }) =>
      isIn(path, href) || rooms.some((r) => pathOf(r.href) === path) || holds.some(([p]) => isIn(path, p)),
  );

/** Finds the room one is in; undefined in a place that is none. */
export function roomOf(door: Door, path: string, asked: Asked): Room | undefined {
  const here = door.rooms.filter((r) => pathOf(r.href) === path);
  return here.find((r) => r.asked && asked[r.asked[0]] === r.asked[1]) ?? here.find((r) => !r.asked);
}

/** Finds what a place that is opened from within is called, and where it is opened from. */
export function heldIn(path: string): { words: string; from: Pick<Door, 'href' | 'words'> } | undefined {
  const door = doorOf(path);
  const held = door?.holds.find(([p]) => p === path);
  if (!door || !held) return undefined;
  // What gathers belongs to the list of what was gathered.
  const isGathering = path.startsWith('/gather/') || path === '/outline';
  return { words: held[1], from: isGathering ? { href: '/gather', words: 'Gather' } : door };
}

/** Names the page at an address, for the window and for who hears it: `Evenings · To-do`. */
export function pageName(path: string, asked: Asked): string {
  const door = doorOf(path);
  if (!door) return '';
  const held = heldIn(path)?.words;
  const room = roomOf(door, path, asked);
  const inner = held ?? (room && room.href !== door.href ? capital(room.words) : '');
  return inner && inner !== door.words ? `${inner} · ${door.words}` : door.words;
}

const capital = (words: string) => words.charAt(0).toUpperCase() + words.slice(1);
