import { EventEmitter } from 'node:events';

/** News for somebody of what others have done. */
export interface News {
  /** With `causeId`, keeps it from being told twice */
  cause: 'crew' | 'note' | 'offer' | 'openTime' | 'asked';
  causeId?: string;
  title: string;
  line: string;
  itemId?: string | null;
  recurrenceId?: string;
  calendarId?: string | null;
  /** Path of the page that it leads to, where not to the item */
  leads?: string;
}

/** Events that features tell each other of, with what each brings. */
interface Events {
  /** Something of a learner's schedule has changed */
  scheduleChanged: [learnerId: string];
  /** A person may do more or less than before in some schedule */
  accessChanged: [personId: string];
  /** A person's settings or rights bear on what they are told: it is worked out anew */
  listenerChanged: [personId: string];
  /** A person's mail address was confirmed or has changed */
  addressChanged: [personId: string];
  /** A schedule lets go of a calendar that another one had offered to it */
  calendarLeft: [calendarId: string, learnerId: string];
  /** Somebody has seen all news up to an instant, in milliseconds */
  newsSeen: [personId: string, upTo: number];
  /** Somebody has seen what they were told of a note */
  noteSeen: [personId: string, noteId: number];
  /** Somebody has seen a schedule's changes up to one of them */
  changesSeen: [personId: string, learnerId: string, changeId: number];
  /** Somebody has read a thread up to one of its notes */
  threadRead: [personId: string, threadId: string, noteId: number];
  /** Some people are to be told of something in a learner's schedule */
  news: [personIds: Iterable<string>, learnerId: string, news: News];
}

/** Lets features hear of each other's changes without knowing each other. */
export function makeHub() {
  const emitter = new EventEmitter();
  emitter.setMaxListeners(0);
  return {
    /** Calls a listener at each event, in the order of listening. */
    on<N extends keyof Events>(name: N, listener: (...of: Events[N]) => void): void {
      emitter.on(name, listener as (...of: unknown[]) => void);
    },
    /** Tells all who listen; it has happened to all of them when this returns. */
    tell<N extends keyof Events>(name: N, ...of: Events[N]): void {
      emitter.emit(name, ...of);
    },
  };
}
export type Hub = ReturnType<typeof makeHub>;
