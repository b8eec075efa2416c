import type { CrewView } from '@zephyrfield/core/api/crew';
import type { RequestOf, Routes } from '@zephyrfield/core/api/routes';
import { useQuery } from '@tanstack/react-query';
import { call } from './client';
import { forgetPrefetched } from './prefetch';
import { keys, queryClient, refresh, refreshLearner } from './queries';
import { useScreen } from './screen';
import { useSeeAs, type SeenAs } from './see-as';

/** The people around a learner. */
export const useCrew = (learnerId: string) =>
  useQuery<CrewView>({
    queryKey: keys.crew(learnerId),
    queryFn: () => call('crew', { params: { learnerId } }),
  });

/** After something of a crew was changed: who is in it, and what oneself may do. */
const crewChanged = (learnerId: string) =>
  Promise.all([refreshLearner(queryClient, learnerId), refresh(keys.session)]);

/** @throws Refusal */
export async function changeMember(
  learnerId: string,
  id: string,
  body: RequestOf<Routes['changeMember']>['body'],
): Promise<void> {
  await call('changeMember', { params: { id }, body });
  await crewChanged(learnerId);
}

/** Removes somebody, or leaves. @throws Refusal */
export async function removeMember(learnerId: string, id: string): Promise<void> {
  await call('removeMember', { params: { id } });
  await crewChanged(learnerId);
}

/** Invites somebody; gives what lets them in, where it did not go by mail. @throws Refusal */
export async function invite(body: RequestOf<Routes['invite']>['body']): Promise<string | null> {
  const { secret } = await call('invite', { body });
  await Promise.all(body.learnerIds.map((id) => refresh(keys.crew(id))));
  return secret;
}

/** @throws Refusal */
export async function takeBackInvitation(learnerId: string, id: string): Promise<void> {
  await call('takeBackInvitation', { params: { id } });
  await refresh(keys.crew(learnerId));
}

/** Gives what an invitation says. @throws Refusal */
export const lookAtInvitation = (secret: string) => call('lookAtInvitation', { body: { secret } });

/** Comes into the crews an invitation is to, and looks at the first of them. @throws Refusal */
export async function acceptInvitation(secret: string): Promise<void> {
  const { learnerIds } = await call('acceptInvitation', { body: { secret } });
  await queryClient.invalidateQueries();
  if (learnerIds[0]) useScreen.getState().chooseLearner(learnerIds[0]);
}

/** Says whom a calendar is for. @throws Refusal */
export async function changeAudience(
  learnerId: string,
  id: string,
  audience: RequestOf<Routes['changeAudience']>['body']['audience'],
): Promise<void> {
  await call('changeAudience', { params: { id }, body: { audience } });
  await refreshLearner(queryClient, learnerId);
}

/** Looks with somebody’s eyes from now on, or (null) with one’s own again: nothing that is known stays. */
export async function seeAs(as: SeenAs | null): Promise<void> {
  forgetPrefetched();
  useSeeAs.setState({ as });
  await queryClient.cancelQueries();
  queryClient.removeQueries({ predicate: (q) => q.queryKey[0] === 'learner' || q.queryKey[0] === 'item' });
  await queryClient.refetchQueries({ queryKey: keys.session });
  if (as) useScreen.getState().chooseLearner(as.learnerId);
}
