import type { OutlineHead, OutlineTerm, OutlineView } from '@zephyrfield/core/api/outlines';
import type { RequestOf, Routes } from '@zephyrfield/core/api/routes';
import { useQuery } from '@tanstack/react-query';
import { call, sendFile } from './client';
import { refresh } from './queries';

const keyOf = (learnerId: string) => ['learner', learnerId, 'outlines'] as const;

/** The outlines that are kept with the calendars of a schedule. */
export const useOutlines = (learnerId: string) =>
  useQuery<OutlineHead[]>({
    queryKey: keyOf(learnerId),
    queryFn: () => call('outlines', { params: { learnerId } }),
  });

/** Sends an outline to be read. @throws Refusal */
export const sendOutline = (
  learnerId: string,
  { file, name, ...term }: OutlineTerm & { file: Blob; name: string },
  onSent: (share: number) => void,
  stop: AbortSignal,
): Promise<OutlineView> =>
  sendFile('sendOutline', { params: { learnerId }, query: { name, ...term }, file }, onSent, stop);

/** Reads one again, for another term or order. @throws Refusal */
export const readOutline = (id: string, query: OutlineTerm): Promise<OutlineView> =>
  call('outline', { params: { id }, query });

/** @throws Refusal */
export async function keepOutline(
  learnerId: string,
  id: string,
  body: RequestOf<Routes['keepOutline']>['body'],
): Promise<void> {
  await call('keepOutline', { params: { id }, body });
  await refresh(keyOf(learnerId));
}

/** @throws Refusal */
export async function forgetOutline(learnerId: string, id: string): Promise<void> {
  await call('forgetOutline', { params: { id } });
  await refresh(keyOf(learnerId));
}
