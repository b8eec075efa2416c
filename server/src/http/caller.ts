import type { Request } from 'express';

/** Who asks. */
export interface Caller {
  personId: string;
  sessionId: string;
  /** When the session ends at the latest, an instant in milliseconds */
  until: number;
}

export type Authenticate = (req: Request) => Promise<Caller | null>;
