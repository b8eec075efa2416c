import type { FeedItem } from './feed-item.ts';

/**
 * One UID of a feed: what it says, whole. Kept as one thing, since a person's own layer belongs to it as a
 * whole.
 */
export interface EntryContent {
  master: FeedItem | null;
  overrides: FeedItem[];
}

/** What most items have in most fields: not written, put back when read. */
const USUAL = {
  sequence: 0,
  description: '',
  html: null,
  place: '',
  url: null,
  status: 'confirmed',
  start: null,
  end: null,
  due: null,
  length: null,
  completed: null,
  percent: null,
  repeat: null,
  recurrenceId: null,
  andFuture: false,
  line: 0,
  digest: 0,
} as const satisfies Partial<FeedItem>;
const LISTS = ['links', 'categories', 'alarms', 'extra'] as const satisfies (keyof FeedItem)[];

/** An entry's content as text to be stored: half the size of plain JSON, and read back as it was. */
export function contentText({ master, overrides }: EntryContent): string {
  return JSON.stringify(
    overrides.length ? [master && packed(master), ...overrides.map(packed)] : [master && packed(master)],
  );
}

/** Reads what `contentText` wrote. */
export function contentFrom(text: string): EntryContent {
  const [master, ...overrides] = JSON.parse(text) as (Partial<FeedItem> | null)[];
  return {
    master: master ? unpacked(master) : null,
    overrides: overrides.filter((o) => o !== null).map(unpacked),
  };
}

function packed(item: FeedItem): Partial<FeedItem> {
  const result: Record<string, unknown> = {};
  for (const key in item) {
    const value: unknown = item[key as keyof FeedItem];
    if (key in USUAL ? value !== USUAL[key as keyof typeof USUAL] : !Array.isArray(value) || value.length > 0)
      result[key] = value;
  }
  if (item.windowOf) result['windowOf'] = item.windowOf.map(packed);
  return result;
}

function unpacked(part: Partial<FeedItem>): FeedItem {
  const item = { ...USUAL, ...part } as Record<string, unknown>;
  for (const list of LISTS) item[list] ??= [];
  if (part.windowOf) item['windowOf'] = part.windowOf.map(unpacked);
  return item as unknown as FeedItem;
}
