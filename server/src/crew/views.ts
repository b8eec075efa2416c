import type { AccessEventView, CrewView, InvitationView, MemberView } from '@zephyrfield/core/api/crew';
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

const eventView = ({
  at,
  kind,
  by,
  about,
  access,
}: ReturnType<CrewStore['history']>[number]): AccessEventView => ({ at: iso(at), kind, by, about, access });

/** A crew, as somebody in it sees it. */
export function crewView(store: CrewStore, learnerId: string, isKeeper: boolean, now: number): CrewView {
  return {
    members: store.members(learnerId).map(memberView),
    invitations: isKeeper ? store.invitations(learnerId).map((row) => invitationView(row, now)) : [],
    history: isKeeper ? store.history(learnerId).map(eventView) : [],
  };
}
