import { CLAIM_KINDS, Claim, ClaimedRecord } from '@zephyrfield/core/api/claims';
import type { Access, Learner } from '@zephyrfield/core/api/schemas';
import { may, suffices, type Standing } from '@zephyrfield/core/item/access';
import { notAllowed, notFound, noted } from '../http/problem.ts';
import { withEyesOf } from '../http/eyes.ts';
import { schedulesOf } from './see-as.ts';
import type { Sights } from './sights.ts';
import type { PeopleStore } from './store.ts';
import type { Admit, Owner, Owners, SeeAs } from '../http/admit.ts';

const DEED: Record<Access, string> = {
  look: 'look at this schedule',
  tick: 'tick things off in this schedule',
  edit: 'change this schedule',
  keep: 'decide who may see this schedule',
};

/** Tells how somebody stands in a crew, as rights are worked out from. */
export const standingOf = (personId: string, { access, isSelf }: Learner): Standing => ({
  personId,
  access,
  isSelf,
});

export function admission(people: PeopleStore, owners: Owners, sights: Sights): Admit {
  return (personId, wanted, claims, isOfSeveral = false) => {
    const crew = new Map<string, Learner>();
    for (const learner of schedulesOf(people, personId)) crew.set(learner.id, learner);
    // A calendar that is kept from somebody is not there for them, nor is what is in it.
    const learnerFor = (owner: Owner | undefined) => {
      if (owner && 'anyOf' in owner) return mostOf(owner.anyOf.flatMap((id) => crew.get(id) ?? []));
      if (!owner || !('learnerId' in owner)) return undefined;
      const found = crew.get(owner.learnerId);
      // Nobody reads with somebody else’s eyes what is for these alone.
      if (owner.personIds && !owner.personIds.includes(personId)) return undefined;
      if (!found || !owner.calendarIds.length) return found;
      const kept = sights(personId, found.id);
      return owner.calendarIds.some((id) => kept.has(id)) ? undefined : found;
    };
    const isOwn = (owner: Owner | undefined) =>
      owner !== undefined && 'personId' in owner && owner.personId === personId;
    const isAdmitted = ({ kind, id }: Claim) => {
      const owner = owners[kind](id);
      return isOwn(owner) || learnerFor(owner) !== undefined;
    };
    let learner: Learner | null = null;
    const named: Learner[] = [];
    for (const claim of claims) {
      if (claim instanceof ClaimedRecord || claim.lenient) continue;
      const owner = owners[claim.kind](claim.id);
      if (isOwn(owner)) continue;
      const found = learnerFor(owner);
      if (!found || (!isOfSeveral && learner && learner.id !== found.id))
        throw noted(notFound(CLAIM_KINDS[claim.kind]));
      named.push(found);
      learner ??= found;
    }
    // What is not there for them is not there, whatever they may do with the rest.
    if (named.some((each) => !may(standingOf(personId, each), wanted))) throw notAllowed(DEED[wanted]);
    return { learner, isAdmitted };
  };
}

/** Of some schedules, the one in which most may be done. */
const mostOf = (learners: readonly Learner[]): Learner | undefined =>
  learners.reduce<Learner | undefined>(
    (best, each) => (!best || suffices(each.access, best.access) ? each : best),
    undefined,
  );

/**
 * Lets who keeps a schedule, or whose own it is, see it as somebody in its crew does.
 * @param memberOf finds somebody in a crew by what names them there
 */
export function seeingAs(
  admit: Admit,
  memberOf: (id: string) => { personId: string; learnerId: string } | undefined,
): SeeAs {
  return (caller, memberId) => {
    const { learner } = admit(caller.personId, 'look', [new Claim('member', memberId)]);
    const member = memberOf(memberId);
    if (!learner || !member) throw noted(notFound(CLAIM_KINDS.member));
    if (!learner.isSelf && !may(standingOf(caller.personId, learner), 'keep'))
      throw notAllowed('see this schedule as somebody else does');
    const personId = withEyesOf(caller.personId, member.personId, member.learnerId);
    return { ...caller, ownId: caller.personId, personId };
  };
}
