/** Reason why a link could not be read, as a code that is stored; the words are made when they are shown. */
export const TROUBLES = {
  address: [
    'That is not a web address.',
    'A calendar’s link begins with https:// or webcal://. Copy it again from the course page.',
  ],
  private: [
    'That address leads into a private network.',
    'Use the public link of the calendar, or ask whoever runs this server to allow that address.',
  ],
  unreachable: [
    'The server at that address cannot be reached.',
    'Check the address for a typing mistake. If it is right, the other server may be down; try again later.',
  ],
  timeout: ['The server took too long to answer.', 'Try again later; nothing is lost meanwhile.'],
  certificate: [
    'The connection to that server is not secure: its certificate is not valid.',
    'The people who run it must fix that. Try again later.',
  ],
  signIn: [
    'The link asks for a sign-in.',
    'Look on the course page for a calendar link that works without signing in, and follow that one.',
  ],
  forbidden: [
    'The server refuses to give this calendar.',
    'The link may have been withdrawn. Copy a fresh link from the course page.',
  ],
  notFound: [
    'There is nothing at that address.',
    'The link may be mistyped or old. Copy it again from the course page.',
  ],
  gone: ['This calendar was removed for good.', 'Look on the course page for a new link.'],
  busy: ['The server asks us to come back later.', 'We try again by ourselves.'],
  serverFault: ['The other server has a problem.', 'Try again later; nothing is lost meanwhile.'],
  answer: ['The server gave an answer that cannot be used.', 'Check the address, or try again later.'],
  redirects: ['The link leads in a circle.', 'Copy a fresh link from the course page.'],
  tooLarge: [
    'The answer is larger than a calendar should be.',
    'Look for a link to one course, or to a shorter span of time.',
  ],
  webPage: [
    'That is a web page, not a calendar.',
    'On that page, look for “subscribe”, “calendar feed” or “iCal”, and copy the link that ends up there.',
  ],
  empty: ['The answer is empty.', 'Try again later. If it stays so, copy a fresh link from the course page.'],
  notCalendar: [
    'That is not a calendar feed.',
    'Look on the course page for a link to a calendar feed (often ending in .ics).',
  ],
  sealed: [
    'The address of this link can no longer be read here.',
    'The server was given a new key. Copy the link again from the course page and enter it below; all you have added stays.',
  ],
  reading: [
    'The calendar could not be read in reasonable time.',
    'It may be damaged or much too large. Tell whoever publishes it.',
  ],
} as const;

/** The same of a file, where the words of a link would be wrong. */
export const FILE_TROUBLES: Partial<Record<keyof typeof TROUBLES, readonly [title: string, remedy: string]>> =
  {
    empty: ['The file is empty.', 'Export it again on the page it is from, and read that copy.'],
    webPage: [
      'That file is a web page, not a calendar.',
      'On the page it is from, look for “export” or “iCal”, and read the file you get there.',
    ],
    notCalendar: ['That file is not a calendar.', 'Calendar files often end in .ics. Choose such a one.'],
    reading: [
      'The file could not be read in reasonable time.',
      'It may be damaged or much too large. Export a shorter span of time.',
    ],
  };

export type TroubleCode = keyof typeof TROUBLES;

/** A link that could not be read. */
export class FeedTrouble extends Error {
  constructor(
    readonly code: TroubleCode,
    /** When to come back, in seconds, where the server said so */
    readonly retryAfter?: number,
  ) {
    super(TROUBLES[code][0]);
  }
}
