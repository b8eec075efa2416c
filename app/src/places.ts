/** Every address of the interface: the files in `app/`, as the router names them. */
export const PLACES = [
  '/',
  '/account',
  '/calendar',
  '/changes',
  '/confirm',
  '/crew',
  '/day-sheet',
  '/for-others',
  '/forgotten',
  '/gather',
  '/gather/files',
  '/gather/follow',
  '/help',
  '/hidden',
  '/join',
  '/new-account',
  '/news',
  '/notice-settings',
  '/notes',
  '/notices',
  '/open-times',
  '/outline',
  '/plan',
  '/reset',
  '/settings',
  '/sharing',
  '/table',
  '/today',
  '/todo',
  '/you',
] as const;

type Place = (typeof PLACES)[number];

/** Place where a link may lead: a place, or a place with what is asked of it. */
export type Address = Place | `${Place}?${string}`;
