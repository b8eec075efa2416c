import { attempts } from './people/attempts.ts';
import { hearingIn } from './people/hearing.ts';
import { sightsIn } from './people/sights.ts';
import { peopleStore } from './people/store.ts';
import type { FileFolder } from './files/folder.ts';
import type { Clock } from './clock.ts';
import type { Config } from './config.ts';
import { orderedId } from './db/ids.ts';
import type { Db } from './db/open.ts';
import { makeHub } from './hub.ts';
import { liveUpdates, openStreams } from './http/live.ts';
import { Versions } from './http/replies.ts';
import type { Log } from './log.ts';
import type { Mail } from './mail/frame.ts';
import type { Transport } from './mail/transport.ts';
import type { Metrics } from './metrics.ts';
import type { Secrets } from './secrets.ts';
import type { SecurityLog } from './security-log.ts';
import type { Pool } from './work/pool.ts';

/** Everything the server is given to work with; nothing of it knows a feature. */
export interface Deps {
  config: Config;
  db: Db;
  clock: Clock;
  /** The time sessions are counted in: never the demo's */
  wallClock: Clock;
  secrets: Secrets;
  pool: Pool;
  security: SecurityLog;
  /** Place where files of briefs lie */
  folder: FileFolder;
  /** Hands mail to a mail server; null where none is set up */
  mail: Transport | null;
  /** Numbers that an operator watches */
  metrics: Metrics;
  /** Moment when it was brought back from a backup, an instant in milliseconds; 0 where it never was */
  restoredAt: number;
  /** Gives the address by which people reach this server */
  address(): string;
  log: Log;
  /** It is the demo, where the first account needs no set-up word */
  isDemo: boolean;
}

/** Lays what all features stand on: people and their sights, events, open pages, single mails. */
export function layGround(deps: Deps) {
  const { config, db, clock, mail, address } = deps;
  const hub = makeHub();
  const versions = new Versions();
  const live = liveUpdates();
  const sights = sightsIn(db);
  const base = () => config.PUBLIC_URL ?? address();
  const host = new URL(config.PUBLIC_URL ?? 'http://zephyrfield.invalid').hostname;
  hub.on('scheduleChanged', versions.changed);
  hub.on('scheduleChanged', live.tell);
  hub.on('accessChanged', live.tellAccess);
  hub.on('accessChanged', (personId) => hub.tell('listenerChanged', personId));
  hub.on('addressChanged', (personId) => hub.tell('listenerChanged', personId));
  hub.on('addressChanged', live.tellPerson);
  return {
    ...deps,
    people: peopleStore(db),
    sights,
    mayHear: hearingIn(db, sights),
    limits: attempts(),
    hub,
    /** Tells that something of a learner's schedule has changed */
    changed: (learnerId: string) => hub.tell('scheduleChanged', learnerId),
    versions,
    live,
    streams: openStreams(),
    /** Address that people reach this server by */
    base,
    /** Name of the host in the ids of mails */
    host,
    /** Sends one mail that somebody asked for; null without a mail server */
    sendOne:
      mail &&
      (async (to: string, composed: Mail) =>
        void (await mail({
          ...composed,
          to,
          messageId: `<${orderedId(clock.now())}@${host}>`,
          unsubscribe: null,
        }))),
  };
}
export type Ground = ReturnType<typeof layGround>;
