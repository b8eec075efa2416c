import { CLAIM_KINDS, ClaimedRecord, type Claim, type ClaimKind } from '@zephyrfield/core/api/claims';
import type { Access, Learner } from '@zephyrfield/core/api/schemas';
import { suffices } from '@zephyrfield/core/item/access';
import { notAllowed, notFound, noted } from '../http/problem.ts';
import type { PeopleStore } from './store.ts';

const DEED: Record<Access, string> = {
  look: 'look at this schedule',
  tick: 'tick things off in this schedule',
  edit: 'change this schedule',
};

/** Whose something is: it belongs to a learner's schedule, or to a person alone. */
export type Owner = { learnerId: string } | { personId: string };

/** Finds whose the thing with this id is; undefined where there is none. */
export type Owners = Record<ClaimKind, (id: string) => Owner | undefined>;

export interface Admission {
  /** The schedule that the request is about; null where it names none */
  learner: Learner | null;
  /** Whether what a lenient claim names may be used */
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
) => Admission;

export function admission(people: PeopleStore, owners: Owners): Admit {
  return (personId, wanted, claims) => {
    const crew = new Map<string, Learner>();
    for (const learner of people.learnersOf(personId)) crew.set(learner.id, learner);
    const learnerFor = (owner: Owner | undefined) =>
      owner && 'learnerId' in owner ? crew.get(owner.learnerId) : undefined;
    const isOwn = (owner: Owner | undefined) =>
      owner !== undefined && 'personId' in owner && owner.personId === personId;
    const isAdmitted = ({ kind, id }: Claim) => {
      const owner = owners[kind](id);
      return isOwn(owner) || learnerFor(owner) !== undefined;
    };
    let learner: Learner | null = null;
    for (const claim of claims) {
      if (claim instanceof ClaimedRecord || claim.lenient) continue;
      const owner = owners[claim.kind](claim.id);
      if (isOwn(owner)) continue;
      const found = learnerFor(owner);
      if (!found || (learner && learner.id !== found.id)) throw noted(notFound(CLAIM_KINDS[claim.kind]));
      learner = found;
    }
    if (learner && !suffices(learner.access, wanted)) throw notAllowed(DEED[wanted]);
    return { learner, isAdmitted };
  };
}
