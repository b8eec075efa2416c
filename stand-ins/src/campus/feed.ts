/** A date as a course server would write it. */
export type CampusDate =
  | { kind: 'date'; date: string }
  /** Written in UTC, whatever the local hour was */
  | { kind: 'utc'; at: string }
  /** Wall-clock time under a zone's name, which need not be one the time-zone database has */
  | { kind: 'zoned'; local: string; tzid: string };

export interface CampusEntry {
  uid: string;
  component: 'event' | 'todo';
  title: string;
  description?: string;
  html?: string;
  place?: string;
  url?: string;
  conference?: { href: string; label: string };
  categories?: string[];
  start?: CampusDate;
  end?: CampusDate;
  due?: CampusDate;
  status?: 'CONFIRMED' | 'CANCELLED' | 'NEEDS-ACTION' | 'IN-PROCESS' | 'COMPLETED';
  percent?: number;
  /** Reminder triggers such as -P1D */
  alarms?: string[];
  rule?: string;
  except?: CampusDate[];
  /** Set on an override: which occurrence it stands for */
  recurrenceId?: CampusDate;
  sequence?: number;
}

/** Way in which a feed answers. */
export const MODES = {
  normal: 'answers as it should',
  slow: 'takes eight seconds to answer',
  empty: 'answers with a calendar that has nothing in it',
  broken: 'breaks off in the middle',
  signIn: 'answers with a sign-in page',
  unauthorised: 'answers 401, sign in',
  missing: 'answers 404, not found',
  gone: 'answers 410, gone for good',
  busy: 'answers 429, come back later',
  fault: 'answers 500, a fault',
} as const;
export type Mode = keyof typeof MODES;

export interface CampusFeed {
  /** Path below /feeds/, without .ics */
  path: string;
  name: string;
  entries: CampusEntry[];
  /** ISO 8601 duration for REFRESH-INTERVAL */
  refresh?: string;
  /** Feeds with the secret in their query ask for it */
  key?: string;
}
