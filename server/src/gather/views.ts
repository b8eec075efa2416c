import type { ChangeView, SourceView } from '@zephyrfield/core/api/schemas';
import { calendarIdsOf, sectionKey } from './sections.ts';
import type { ChangeRow, GatherStore, SourceRow } from './store.ts';
import { TROUBLES, type TroubleCode } from './trouble.ts';

const iso = (ms: number | null) => (ms === null ? null : new Date(ms).toISOString());

/** A source as it is shown. */
export function sourceView(row: SourceRow, store: GatherStore): SourceView {
  const code = row.troubleCode as TroubleCode | null;
  const [message, remedy] = code && code in TROUBLES ? TROUBLES[code] : ['', ''];
  const counts = new Map(store.sectionCounts(row.id).map(({ section, n }) => [sectionKey(section), n]));
  const entries = [...counts.values()].reduce((a, b) => a + b, 0);
  return {
    id: row.id,
    calendarIds: calendarIdsOf(row),
    // What is made by hand is no source to be shown.
    kind: row.kind === 'handMade' ? 'followedLink' : row.kind,
    address: row.addressMasked,
    split: row.rules.split,
    sections: row.rules.split
      ? Object.entries(row.sections).map(([key, calendarId]) => ({
          section: key || null,
          calendarId,
          count: counts.get(key) ?? 0,
        }))
      : [],
    newSections: row.newSections,
    entries,
    records: store.recordCount(row.id),
    lastChecked: iso(row.lastCheckedAt),
    lastGood: iso(row.lastGoodAt),
    heldBack:
      row.heldSince === null
        ? null
        : { since: new Date(row.heldSince).toISOString(), missing: row.heldMissing, of: row.heldOf },
    nextCheck: iso(row.nextCheckAt),
    trouble: code
      ? { code, message, remedy, since: new Date(row.troubleSince ?? row.lastCheckedAt ?? 0).toISOString() }
      : null,
    warnings: row.warnings,
  };
}

/**
 * What a reading has changed.
 * @param seenUpTo the number of the last change that the person has seen
 */
export const changeView = (
  { learnerId: _learner, at, ...change }: ChangeRow,
  seenUpTo: number,
): ChangeView => ({
  ...change,
  at: new Date(at).toISOString(),
  seen: change.id <= seenUpTo,
});
