import type { Claim, ClaimKind, ClaimedRecord } from '@zephyrfield/core/api/claims';
import type { Access, Learner } from '@zephyrfield/core/api/schemas';
import type { Caller } from './caller.ts';

/** Whose something is: it belongs to a learner's schedule, or to a person alone. */
export type Owner =
  | {
      learnerId: string;
      calendarIds: readonly string[];
      /** Place where it is not for all of the crew: for these alone */
      personIds?: readonly string[];
    }
  /** It has to do with several schedules: whoever is let into one of them has to do with it */
  | { anyOf: readonly string[] }
  | { personId: string };

/** Finds whose the thing with this id is; undefined where there is none. */
export type Owners = Record<ClaimKind, (id: string) => Owner | undefined>;

export interface Admission {
  /** The schedule that the request is about; null where it names none */
  learner: Learner | null;
  /** Tells whether what a lenient claim names may be used */
  isAdmitted(claim: Claim): boolean;
}

/**
 * The one place where ids that come in are admitted. Each has to name something that this person may have to
 * do with, as far as is wanted, and all that are of schedules have to be of the same one. What they may not
 * even look at does not exist.
 * @throws ProblemError 404 or 403
 */
export type Admit = (
  personId: string,
  wanted: Access,
  claims: readonly (Claim | ClaimedRecord)[],
  /** Each schedule that is named is admitted by itself; the first is what the request is about */
  isOfSeveral?: boolean,
) => Admission;

/** Gives whoever asks the eyes of somebody in a crew, by what names that person there. @throws ProblemError */
export type SeeAs = (caller: Caller, memberId: string) => Caller;
