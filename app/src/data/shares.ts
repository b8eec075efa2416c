import { paths } from '@zephyrfield/core/api/paths';
import type { RequestOf, Routes } from '@zephyrfield/core/api/routes';
import type { ShareView } from '@zephyrfield/core/api/share';
import type { PaperAsked } from '@zephyrfield/core/out/paper-size';
import type { TableOf } from '@zephyrfield/core/out/columns';
import { useQuery } from '@tanstack/react-query';
import { call } from './client';
import { keys, refresh } from './queries';

export type ShareInput = RequestOf<Routes['addShare']>['body'];

/** The links by which a schedule goes out, as far as one may change them. */
export const useShares = (learnerId: string) =>
  useQuery<ShareView[]>({
    queryKey: keys.shares(learnerId),
    queryFn: () => call('shares', { params: { learnerId } }),
  });

/** Lets it go out by one more link; gives the link’s secret, which is told this once. @throws Refusal */
export async function addShare(learnerId: string, body: ShareInput): Promise<string> {
  const { secret } = await call('addShare', { params: { learnerId }, body });
  await refresh(keys.shares(learnerId));
  return secret;
}

/** @throws Refusal */
export async function changeShare(
  learnerId: string,
  id: string,
  body: RequestOf<Routes['changeShare']>['body'],
): Promise<void> {
  await call('changeShare', { params: { id }, body });
  await refresh(keys.shares(learnerId));
}

/** Gives a link another address. @throws Refusal */
export async function renewShare(learnerId: string, id: string): Promise<string> {
  const { secret } = await call('renewShare', { params: { id } });
  await refresh(keys.shares(learnerId));
  return secret;
}

/** @throws Refusal */
export async function takeBackShare(learnerId: string, id: string): Promise<void> {
  await call('takeBackShare', { params: { id } });
  await refresh(keys.shares(learnerId));
}

/** Gives what others see by a link of these rules. @throws Refusal */
export const lookAtShare = (learnerId: string, rules: ShareInput['rules']) =>
  call('lookAtShare', { params: { learnerId }, body: rules });

interface Wanted {
  /** Null for all */
  calendars: readonly string[] | null;
  /** Dates, empty where it is left open */
  from: string;
  to: string;
  /** A table and its columns; a calendar without it */
  table: { of: TableOf; columns: readonly string[] } | null;
}

/** Finds where a file of a schedule is had: the browser fetches it as it does any other. */
export function fileAddress(learnerId: string, { calendars, from, to, table }: Wanted): string {
  const { path } = table ? paths.table : paths.calendarFile;
  const query = new URLSearchParams({
    ...(calendars && { calendars: calendars.join(',') }),
    ...(from && { from }),
    ...(to && { to }),
    ...(table && { of: table.of, columns: table.columns.join(',') }),
  });
  return `${path.replace(':learnerId', encodeURIComponent(learnerId))}?${query.toString()}`;
}

/** Finds where a week or a month of one learner or several is laid out to be printed. */
export function paperAddress(
  learnerId: string,
  { of, size, turn, day }: PaperAsked,
  others: readonly string[],
  briefs: boolean,
): string {
  const query = new URLSearchParams({ of, size, turn, ...(day && { day }), briefs: briefs ? '1' : '0' });
  if (others.length) query.set('others', others.join(','));
  return `${paths.paper.path.replace(':learnerId', encodeURIComponent(learnerId))}?${query.toString()}`;
}
