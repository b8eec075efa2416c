import { hash } from '../lib/hash.ts';
import type { Snapshot, Standing } from './differences.ts';
import type { Entry } from './entries.ts';
import type { EntryContent } from '../ical/content.ts';

/**
 * Digest of everything a person would read in an entry. What an override says for its own date is told by
 * that date.
 */
export function wordingOf({ master, overrides }: EntryContent): string {
  const face = master ?? overrides[0];
  return face ? hash(`${face.title}\n${face.description}\n${face.place}\n${face.url ?? ''}`) : '';
}

/** An entry with its occurrences, as the comparison of readings needs it. */
export function snapshotOf(
  entry: Pick<Entry, 'uid' | 'title' | 'content'>,
  occurrences: readonly Standing[],
): Snapshot {
  const face = entry.content.master ?? entry.content.overrides[0];
  return {
    uid: entry.uid,
    title: entry.title,
    wording: wordingOf(entry.content),
    url: face?.url ?? null,
    occurrences: [...occurrences],
  };
}
