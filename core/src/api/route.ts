import { z } from 'zod';
import { claim } from './claims.ts';
import type { Access } from './schemas.ts';

/**
 * How far somebody has to be let into the schedule that a request is about; where its body decides, worked
 * out from that.
 */
export type Needed<B> = Access | ((body: B) => Access);

/**
 * One line of the contract: what the server answers and the client may ask. Every id in it is a claim (see
 * `claims`), and all of a schedule's that come in one request are of one schedule.
 */
export interface Route<
  P extends z.ZodType = z.ZodType,
  Q extends z.ZodType = z.ZodType,
  B extends z.ZodType = z.ZodType,
  R extends z.ZodType = z.ZodType,
  A = Needed<never> | undefined,
> {
  method: 'GET' | 'POST' | 'PATCH' | 'PUT' | 'DELETE';
  /** Express path; parameters as `:name` */
  path: string;
  summary: string;
  params: P;
  query: Q;
  body: B;
  reply: R;
  /** Right that whoever asks needs in the schedule it is about; undefined where it is about none */
  access: A;
  /** It is about several schedules: what has to be allowed has to be allowed in each */
  several?: boolean;
  /** About no schedule, and all the same seen with the eyes of whoever is looked through */
  seenAs?: boolean;
  /** Answered to anybody, signed in or not */
  open?: boolean;
  /** The body is a file's bytes and not JSON */
  raw?: boolean;
  /** The body is an archive's bytes, which the handler takes in by itself, as they come */
  upload?: boolean;
  /** Answered with bytes or events of its own and not with JSON */
  stream?: boolean;
}

const none = z.object({});
type None = typeof none;

/** A line of the contract; what it does not say is nothing: no parameters, no body, no schedule. */
export function route<
  R extends z.ZodType,
  P extends z.ZodType = None,
  Q extends z.ZodType = None,
  B extends z.ZodType = None,
  A extends Needed<z.output<B>> | undefined = undefined,
>(r: {
  method: Route['method'];
  path: string;
  summary: string;
  reply: R;
  params?: P;
  query?: Q;
  body?: B;
  access?: A;
  several?: boolean;
  seenAs?: boolean;
  open?: boolean;
  raw?: boolean;
  upload?: boolean;
  stream?: boolean;
}): Route<P, Q, B, R, A> {
  return {
    params: none as unknown as P,
    query: none as unknown as Q,
    body: none as unknown as B,
    access: undefined as A,
    ...r,
  };
}

export const ofLearner = z.object({ learnerId: claim('learner') });
export const ofCalendar = z.object({ id: claim('calendar') });
export const ofSource = z.object({ id: claim('source') });
export const ofItem = z.object({ id: claim('item') });
/** Name of a file, and the date of the item it is for; empty for all of them. */
export const fileOfDate = z.object({
  name: z.string().trim().min(1).max(255),
  recurrenceId: z.string().max(64).default(''),
});
export const never = z.never();
export const done = z.object({ ok: z.literal(true) });
