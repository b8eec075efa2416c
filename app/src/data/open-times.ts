import type { OpenTimesView, RepliesView, Taken } from '@zephyrfield/core/api/open-times';
import type { RequestOf, Routes } from '@zephyrfield/core/api/routes';
import { useQuery } from '@tanstack/react-query';
import { call } from './client';
import { isUnreached, keepForLater } from './outbox';
import { queryClient, refresh, refreshLearner } from './queries';

const OFFERED = ['offered times'] as const;

/** The times one offers oneself, with what is taken by whom. */
export const useOfferedTimes = () =>
  useQuery<OpenTimesView[]>({ queryKey: OFFERED, queryFn: () => call('openTimes') });

/** @throws Refusal */
export async function offerTimes(body: RequestOf<Routes['offerTimes']>['body']): Promise<void> {
  await call('offerTimes', { body });
  await refresh(OFFERED);
}

/** @throws Refusal */
export async function endTimes(id: string): Promise<void> {
  await call('endTimes', { params: { id } });
  await refresh(OFFERED);
}

/**
 * Takes a time for a learner; where somebody was faster, gives the nearest that are left. Without a way to the server it
 * is asked for once there is one.
 * @param words it as a person would name it
 * @throws Refusal
 */
export async function takeSlot(learnerId: string, id: string, word: string, words: string): Promise<Taken> {
  try {
    const taken = await call('takeSlot', { params: { id }, body: { learner: learnerId, word } });
    await refreshLearner(queryClient, learnerId);
    return taken;
  } catch (error) {
    const asked = { kind: 'booking', slotId: id, learnerId, word, words: `${words}: asked for` } as const;
    if (!isUnreached(error) || !keepForLater(asked)) throw error;
    return { taken: true, nearest: [] };
  }
}

/** Gives a time back, or moves it to another one. @throws Refusal */
export async function giveBack(booking: string, word: string, to?: string): Promise<Taken> {
  const taken = await call('giveBack', { params: { id: booking }, body: { word, ...(to && { to }) } });
  await Promise.all([refresh(OFFERED), refresh(['learner']), refresh(['item'])]);
  return taken;
}

/** Gives what was answered to whether one will come. */
export const useReplies = (itemId: string, recurrenceId: string) =>
  useQuery<RepliesView>({
    queryKey: ['item', itemId, 'replies', recurrenceId],
    queryFn: () => call('replies', { params: { id: itemId }, query: { recurrenceId } }),
  });

const refreshItem = () => refresh(['item']);

/** @throws Refusal */
export const askToCome = (id: string, asks: boolean) =>
  call('askToCome', { params: { id }, body: { asks } }).then(refreshItem);
/** @throws Refusal */
export const sayComing = (id: string, body: RequestOf<Routes['sayComing']>['body']) =>
  call('sayComing', { params: { id }, body }).then(refreshItem);
/** @throws Refusal */
export const remindToAnswer = (id: string) =>
  call('remindToAnswer', { params: { id } }).then(async (found) => {
    await refreshItem();
    return found.reminded;
  });
