import type { AccessEventView, CrewView, InvitationView, MemberView } from '@zephyrfield/core/api/crew';
import { PRIVATE_LINK } from '@zephyrfield/core/out/share';
import type { AccessEvent } from '@zephyrfield/core/item/crew';
import type { CrewStore } from './store.ts';

const iso = (ms: number) => new Date(ms).toISOString();

const memberView = ({ joinedAt, ...shown }: ReturnType<CrewStore['members']>[number]): MemberView => ({
  ...shown,
  since: iso(joinedAt),
});

function invitationView(
  { to, invitation: i, by }: ReturnType<CrewStore['invitations']>[number],
  now: number,
): InvitationView {
  const state =
    to.takenBackAt !== null ? 'takenBack' : i.usesLeft <= 0 ? 'used' : i.expiresAt <= now ? 'runOut' : 'open';
  const { way, email, access, asLearner, usesLeft, used, createdAt, expiresAt } = i;
  const shown = { way, email, access, asLearner, usesLeft, used };
  return { ...shown, id: to.id, by, created: iso(createdAt), expires: iso(expiresAt), state };
}

/** Kinds of event that are about a calendar and nothing else. */
const OF_CALENDAR: ReadonlySet<string> = new Set<AccessEvent>(['keptFrom', 'forAll']);

/**
 * Gives what happened with access, as far as a viewer may hear of it: nothing about a calendar that is kept from them or
 * is there no more, and no name of a link that named one.
 */
function eventViews(
  { at, kind, by, about, access, calendarIds }: ReturnType<CrewStore['history']>[number],
  seen: ReadonlySet<string>,
): AccessEventView[] {
  const isSeen = calendarIds?.every((id) => seen.has(id)) ?? true;
  if (!isSeen && OF_CALENDAR.has(kind)) return [];
  return [{ at: iso(at), kind, by, about: isSeen ? about : PRIVATE_LINK, access }];
}

/**
 * Gives a crew, as somebody in it sees it.
 * @param seen ids of the calendars that they see
 */
export function crewView(
  store: CrewStore,
  learnerId: string,
  { isKeeper, seen, now }: { isKeeper: boolean; seen: ReadonlySet<string>; now: number },
): CrewView {
  return {
    members: store.members(learnerId).map(memberView),
    invitations: isKeeper ? store.invitations(learnerId).map((row) => invitationView(row, now)) : [],
    history: isKeeper ? store.history(learnerId).flatMap((row) => eventViews(row, seen)) : [],
  };
}
