import type { OfferView, Publication } from '@zephyrfield/core/api/publish';
import type { ReplyOf, RequestOf, Routes } from '@zephyrfield/core/api/routes';
import { useQuery } from '@tanstack/react-query';
import { call } from './client';
import { keys, queryClient, refresh, refreshLearner, useSession } from './queries';

/** The schedule that is the person’s own; null where they have none. */
export const useOwnLearner = () => useSession().data?.learners.find((l) => l.isSelf) ?? null;

/** Which calendars of a schedule are offered to others. */
export const usePublications = (learnerId: string | undefined) =>
  useQuery<Publication[]>({
    queryKey: keys.publications(learnerId ?? ''),
    queryFn: () => call('publications', { params: { learnerId: learnerId! } }),
    enabled: learnerId !== undefined,
  });

/** Offers a calendar to these schedules, and takes it back from all others. @throws Refusal */
export async function publish(
  learnerId: string,
  calendarId: string,
  learnerIds: readonly string[],
): Promise<void> {
  await call('publish', { params: { id: calendarId }, body: { learnerIds: [...learnerIds] } });
  await refresh(keys.publications(learnerId));
}

/** Calendars that are offered to a schedule and wait for an answer. */
export const useOffers = (learnerId: string) =>
  useQuery<OfferView[]>({
    queryKey: keys.offers(learnerId),
    queryFn: () => call('offers', { params: { learnerId } }),
  });

/** Takes an offered calendar in, or not. @throws Refusal */
export async function answerOffer(
  learnerId: string,
  id: string,
  body: { take: boolean; reminders: boolean },
): Promise<void> {
  await call('answerOffer', { params: { id }, body });
  await refreshLearner(queryClient, learnerId);
}

export type OwnItems = ReplyOf<Routes['ownItems']>;

/** All items of a calendar made by hand. */
export const useOwnItems = (calendarId: string, enabled = true) =>
  useQuery<OwnItems>({
    queryKey: ['own', calendarId],
    queryFn: () => call('ownItems', { params: { id: calendarId } }),
    enabled,
    gcTime: 0,
  });

/** Makes a calendar of another one’s items, at other dates. @throws Refusal */
export async function carryForward(
  learnerId: string,
  calendarId: string,
  body: RequestOf<Routes['carryForward']>['body'],
): Promise<void> {
  await call('carryForward', { params: { id: calendarId }, body });
  await refreshLearner(queryClient, learnerId);
}
