/** Facts of a piece of news that decide how it stands in the list. */
interface Newsworthy {
  id: number;
  sort: string;
  leads: string | null;
  seen: boolean;
}

/** A row of news: what came last of it, and all the notices it stands for. */
export type NewsRow<T> = T & { ids: readonly number[] };

/**
 * Lists news with a row for each thing: several notes of one thread, of which all are seen or none, are one row, in the
 * place of the latest.
 * @param notices the latest first
 */
export function newsRows<T extends Newsworthy>(notices: readonly T[]): NewsRow<T>[] {
  const rows: (T & { ids: number[] })[] = [];
  const threads = new Map<string, { ids: number[] }>();
  for (const notice of notices) {
    const thread = notice.sort === 'note' ? `${String(notice.seen)} ${notice.leads ?? ''}` : '';
    const known = thread ? threads.get(thread) : undefined;
    if (known) {
      known.ids.push(notice.id);
      continue;
    }
    const row = { ...notice, ids: [notice.id] };
    rows.push(row);
    if (thread) threads.set(thread, row);
  }
  return rows;
}
