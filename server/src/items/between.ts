import { readDatabase } from '../db/open.ts';
import { sightsIn } from '../people/sights.ts';
import { itemStore } from './store.ts';
import { occurrencesBetween } from './views.ts';

/** A span of a schedule between two instants (milliseconds), as somebody sees it. */
export interface BetweenJob {
  /** The database's file, which is read beside the server's own thread */
  file: string;
  learnerId: string;
  personId: string;
  from: number;
  to: number;
}

/** Makes the reply of a span that holds very much, as JSON; runs in a worker thread. */
export const betweenAsJson = ({ file, learnerId, personId, from, to }: BetweenJob): string =>
  readDatabase(file, (db) =>
    JSON.stringify(occurrencesBetween(itemStore(db, sightsIn(db)), learnerId, personId, from, to)),
  );
