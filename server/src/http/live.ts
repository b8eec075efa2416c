import { EventEmitter } from 'node:events';
import { routes } from '@zephyrfield/core/api/routes';
import { MOST } from '../limits.ts';
import type { Mount } from './mount.ts';
import { eyesOf } from './eyes.ts';
import { whoAsks, type Caller } from './caller.ts';
import { pageAsking } from './page.ts';

export interface LiveUpdates {
  /**
   * Tells the open pages that a learner's schedule has changed, but for the page that asked for the change
   */
  tell(learnerId: string): void;
  listen(learnerId: string, page: string | undefined, listener: () => void): () => void;
  /** Tells them that a calendar’s link was checked, and nothing else is new */
  tellChecked(learnerId: string): void;
  listenChecked(learnerId: string, listener: () => void): () => void;
  /** Tells a person's open screens that there is something to be told */
  tellPerson(personId: string): void;
  listenPerson(personId: string, listener: () => void): () => void;
  /** Tells them that what the person may do has changed */
  tellAccess(personId: string): void;
  listenAccess(personId: string, listener: () => void): () => void;
}

export function liveUpdates(): LiveUpdates {
  const emitter = new EventEmitter();
  emitter.setMaxListeners(0);
  const on = (name: string, listener: (by?: string) => void) => {
    emitter.on(name, listener);
    return () => void emitter.off(name, listener);
  };
  return {
    tell: (learnerId) => void emitter.emit(`learner ${learnerId}`, pageAsking()),
    listen: (learnerId, page, listener) =>
      on(`learner ${learnerId}`, (by?: string) => (by === undefined || by !== page ? listener() : undefined)),
    tellChecked: (learnerId) => void emitter.emit(`checked ${learnerId}`),
    listenChecked: (learnerId, listener) => on(`checked ${learnerId}`, listener),
    tellPerson: (personId) => void emitter.emit(`person ${personId}`),
    listenPerson: (personId, listener) => on(`person ${personId}`, listener),
    tellAccess: (personId) => void emitter.emit(`access ${personId}`),
    listenAccess: (personId, listener) => on(`access ${personId}`, listener),
  };
}

/**
 * So often a silent stream says that it is still there, since proxies close silent connections; and is looked
 * at.
 */
const BREATH = 25_000;

export interface LiveDeps {
  live: LiveUpdates;
  streams: Streams;
  /** Tells whether a session is still there: it may have been ended by any way */
  hasSession(id: string): boolean;
  /** Tells whether somebody still sees a learner's schedule, by a person's name or with another's eyes */
  isIn(personId: string, learnerId: string): boolean;
  /** The other learners whose schedules somebody sees */
  othersOf(personId: string, learnerId: string): string[];
  now(): number;
}

/**
 * Server-sent events: `changed` whenever a learner's schedule has been changed by another page or by itself, `others`
 * when that of another learner of theirs was, `checked` when a link was looked at and nothing was new, `notices` when
 * the person has been told something, `access` when they may do more or less than before. What it is is asked for as
 * always. A stream ends with its session.
 */
export function mountLive(mount: Mount, { live, streams, hasSession, isIn, othersOf, now }: LiveDeps): void {
  mount.stream(routes.live, ({ caller, learner, query, res }) => {
    const close = () => void res.end();
    const left = streams.begin(caller, close);
    res.set({ 'Content-Type': 'text/event-stream', 'Cache-Control': 'no-store', Connection: 'keep-alive' });
    res.flushHeaders();
    res.write('retry: 5000\n\n');
    // A stream that was ended hears of more until its connection has closed.
    const say = (event: string) => () =>
      void (res.writableEnded || res.write(`event: ${event}\ndata: {}\n\n`));
    const { id } = learner;
    const stops = [
      live.listen(id, query.page, say('changed')),
      // Who is let go from one of the others meanwhile hears no more of it.
      ...othersOf(caller.personId, id).map((other) =>
        live.listen(other, query.page, () => isIn(caller.personId, other) && say('others')()),
      ),
      live.listenChecked(id, say('checked')),
      live.listenPerson(caller.personId, say('notices')),
      // With another's eyes it ends once either of the two is let go, or may do less.
      ...eyesOf(caller.personId).map((each) =>
        live.listenAccess(each, () => {
          say('access')();
          if (caller.ownId !== undefined || !isIn(caller.personId, id)) close();
        }),
      ),
    ];
    const breath = setInterval(() => {
      if (caller.until <= now() || !hasSession(caller.sessionId)) close();
      // Who reads nothing of it has gone, or means no good.
      else if (res.writableLength > MOST_UNREAD) res.destroy();
      else res.write(': \n\n');
    }, BREATH);
    res.on('close', () => {
      left();
      for (const stop of stops) stop();
      clearInterval(breath);
    });
  });
}

const MOST_UNREAD = 64 * 1024;

/** The event streams that are open, by whose they are. */
export interface Streams {
  /**
   * Takes one in; where the person has too many, the oldest ends. Gives what is to be called when it has
   * ended.
   */
  begin(caller: Caller, close: () => void): () => void;
  /** Ends those of a session, or of all sessions of a person */
  end(personId: string, sessionId?: string): void;
}

export function openStreams(): Streams {
  const open = new Map<string, Map<() => void, string>>();
  return {
    begin(caller, close) {
      const { sessionId } = caller;
      const personId = whoAsks(caller);
      const own = open.get(personId) ?? new Map<() => void, string>();
      // The oldest makes room: it may be of a page that is closed, whose end has not arrived here.
      const [oldest] = own.keys();
      if (oldest && own.size >= MOST.streams) {
        own.delete(oldest);
        oldest();
      }
      own.set(close, sessionId);
      open.set(personId, own);
      return () => {
        own.delete(close);
        if (!own.size && open.get(personId) === own) open.delete(personId);
      };
    },
    end(personId, sessionId) {
      for (const [close, of] of [...(open.get(personId) ?? [])])
        if (sessionId === undefined || of === sessionId) close();
    },
  };
}
