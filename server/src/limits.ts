/**
 * How much there may be of everything that people make: generous, and there so that nobody can fill a server.
 */
export const MOST = {
  /** Schedules one person begins */
  learners: 30,
  /** Calendars of a schedule, and what is followed or read in for them */
  calendars: 100,
  sources: 60,
  /** Items of one's own making in a schedule, taken away ones not counted */
  ownItems: 5_000,
  /** Dates that one reading of a feed, and all that is gathered for one learner, may have stored */
  datesOfReading: 100_000,
  datesOfLearner: 300_000,
  /** Dates that one request of own items makes in the stored horizon */
  datesAtOnce: 10_000,
  /** Dates that all own items of a schedule have in the stored horizon */
  datesOfOwn: 40_000,
  /** Occurrences in one reply: more than anybody looks at */
  occurrencesInReply: 30_000,
  /** Briefs a person keeps to begin others with */
  keptBriefs: 60,
  /** Items that one press writes the same brief on */
  alike: 1_000,
  /** Invitations of one person that are still good */
  invitations: 100,
  /** Bytes of an archive of one schedule */
  archiveBytes: 600 * 2 ** 20,
  /** Links by which a schedule goes out */
  shares: 40,
  /** Offers of times of one person that stand at once */
  openTimes: 60,
  /** Files that wait for the note they go along with, of one person */
  waitingNoteFiles: 24,
  /** Outlines that are kept for one schedule, and that wait to be looked through, of one person */
  outlines: 60,
  waitingOutlines: 10,
  /** Schedules that one calendar is offered to */
  offers: 300,
  /** Pages a person has open at once that are told of changes */
  streams: 20,
  /** Bytes of one file, of all files a person has added, and files of one brief */
  fileBytes: 10 * 2 ** 20,
  personBytes: 500 * 2 ** 20,
  files: 12,
  /** Files that wait to be read in, for one schedule */
  waitingFiles: 20,
  /** Bytes of any request that is no file */
  bodyBytes: 256 * 1024,
} as const;
