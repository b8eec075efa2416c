import type { Group, LearnersDays, LearnersTable } from '@zephyrfield/core/api/table';
import { useQuery } from '@tanstack/react-query';
import { call } from './client';
import { queryClient, refresh } from './queries';

export type Weeks = '5' | '10';
const TABLE = ['table'] as const;

/** Tells how each learner stands whom one looks after, over so many weeks; of courses of that name alone, where one is said. */
export const useLearnersTable = (weeks: Weeks, course: string) =>
  useQuery<LearnersTable>({
    queryKey: [...TABLE, weeks, course],
    queryFn: () => call('learnersTable', { query: { weeks, ...(course && { course }) } }),
    // What is typed narrows what is shown already.
    placeholderData: (before) => before,
  });

/** Gives what some learners have on some days from `from` on, as `2026-10-12`. */
export const useLearnersDays = (learnerIds: readonly string[], from: string, count: number) =>
  useQuery<LearnersDays>({
    queryKey: [...TABLE, 'days', learnerIds.join(','), from, count],
    queryFn: () =>
      call('learnersDays', { query: { learnerIds: learnerIds.join(','), from, count: String(count) } }),
    enabled: learnerIds.length > 0 && from !== '',
    placeholderData: (before) => before,
  });

/** Says which learners one looks at together. @throws Refusal */
export async function changeGroups(groups: readonly Group[]): Promise<void> {
  await call('changeGroups', { body: { groups: [...groups] } });
  await refresh(TABLE, queryClient);
}
