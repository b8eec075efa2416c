/**
 * Every way by which something of a calendar reaches somebody, with what decides how much of it does. `server/test/kept`
 * tries each of them with a calendar that is kept; `docs/security.md` holds this as a table.
 */
export const WAYS_OUT = {
  'reading routes': 'the calendars that are for whoever asks',
  'another’s eyes': 'the calendars that are for both: whoever asks, and whose eyes they borrow',
  notices:
    'those in the crew from whom no calendar and no item that it names is kept; asked when told, and when shown',
  mail: 'the same, asked once more when it is sent; an address is told by mail only once it is confirmed',
  'event streams': 'that something has changed, and nothing of it; a stream ends with access',
  sheets: 'the calendars that are for whoever reads it, worked out when it is read',
  notes: 'those a thread is for, from whom what it is about is not kept',
  questions: 'entries in calendars that are for whoever is asked',
  'links for all calendars': 'the calendars that are for everybody at that moment',
  'links that name calendars': 'those of them that whoever made the link sees, for as long as they may share',
  'links of others':
    'a keeper may pause and delete them; names of calendars kept from that keeper are left out',
  'the history of access': 'names of calendars and links whose calendars are for that keeper',
  'archives and files': 'the calendars that are for whoever makes them',
  'the page drawn first': 'the calendars that are for whoever is signed in',
  'calendars for others': 'what is in them, to schedules they were offered to by somebody who may share them',
} as const;
export type WayOut = keyof typeof WAYS_OUT;

/** Gives the ways out as a table in Markdown. */
export const waysOutTable = (): string =>
  [
    '| by this way | somebody hears of |',
    '| --- | --- |',
    ...Object.entries(WAYS_OUT).map(([way, what]) => `| ${way} | ${what} |`),
  ].join('\n');
