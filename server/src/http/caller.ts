import type { Request } from 'express';

/** Who asks. */
export interface Caller {
  /** Whose rights count: with somebody else’s eyes that is no person’s id (see `people/see-as`) */
  personId: string;
  /** Who it is, where they look with somebody else’s eyes */
  ownId?: string;
  sessionId: string;
  /** Moment when the session ends at the latest, an instant in milliseconds */
  until: number;
}

/** Gives the person who asks, whoever's eyes they look with. */
export const whoAsks = ({ ownId, personId }: Caller): string => ownId ?? personId;

export type Authenticate = (req: Request) => Promise<Caller | null>;
