import type { ItemRef } from '@zephyrfield/core/api/archive';

/** Present names of things, by what an archive calls them. */
export interface NewNames {
  items: ReadonlyMap<string, string>;
  calendars: ReadonlyMap<string, string>;
}

/** Gives what an archive calls an item, as one text. */
export const nameOfItem = (of: ItemRef): string => ('own' in of ? `own ${of.own}` : `${of.source} ${of.uid}`);
