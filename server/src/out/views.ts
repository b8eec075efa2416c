import type { ShareView } from '@zephyrfield/core/api/share';
import type { ShareService } from './service.ts';

const iso = (ms: number) => new Date(ms).toISOString();

/** A link as who may change it sees it. */
export function shareView({ share, by, own, stands }: ReturnType<ShareService['list']>[number]): ShareView {
  const { id, name, rules, page, until, paused, fetched, lastFetchedAt, createdAt } = share;
  return {
    id,
    name,
    rules,
    page,
    until,
    paused,
    by,
    own,
    stands,
    fetched,
    created: iso(createdAt),
    lastFetched: lastFetchedAt === null ? null : iso(lastFetchedAt),
  };
}
