import type { EntryContent } from '../ical/content.ts';
import type { FeedItem } from '../ical/feed-item.ts';
import type { Property, Written } from '../ical/property.ts';
import {
  alarmOf,
  dateProperty,
  instantProperty,
  textOf,
  timeProperties,
  wordProperties,
} from '../ical/write.ts';
import { ZoneBlocks, type WrittenZones } from '../ical/zone-blocks.ts';
import type { OwnZones } from '../ical/zones.ts';

/** Content that a source has brought, with the zones of its own. */
export interface Brought {
  name: string;
  zones: OwnZones;
  entries: readonly EntryContent[];
  /** Moment when it was last read, an instant in milliseconds */
  at: number;
}

/** Gives what a source has brought as a feed again, so that it is read as it was: for an archive. */
export function feedText({ name, zones, entries, at }: Brought): string {
  const blocks = new ZoneBlocks();
  const within = blocks.within(zones);
  const components = entries
    .flatMap(({ master, overrides }) => [...(master ? (master.windowOf ?? [master]) : []), ...overrides])
    .map((item) => component(item, within, at));
  const head: Property[] = [
    ['version', {}, 'text', '2.0'],
    ['prodid', {}, 'text', '-//Zephyrfield//Zephyrfield//EN'],
    ['name', {}, 'text', name],
  ];
  return textOf(['vcalendar', head, [...blocks.blocks(), ...components]]);
}

function component(item: FeedItem, zones: WrittenZones, at: number): Written {
  const { uid, sequence, title, status, completed, percent } = item;
  const state: Property[] = [
    ...(status === 'confirmed' ? [] : [['status', {}, 'text', status.toUpperCase()] as Property]),
    ...(completed ? [dateProperty('completed', completed, zones)] : []),
    ...(percent === null ? [] : [['percent-complete', {}, 'integer', percent] as Property]),
  ];
  const alarms = item.alarms.map((alarm, n) =>
    alarmOf(alarm, { uid: `${n}-${uid}`, title: null, acknowledged: null, zones }),
  );
  return [
    item.component.toLowerCase(),
    [
      ['uid', {}, 'text', uid],
      instantProperty('dtstamp', at),
      ...(sequence ? [['sequence', {}, 'integer', sequence] as Property] : []),
      ...timeProperties(item, zones),
      ['summary', {}, 'text', title],
      ...wordProperties(item),
      ...state,
    ],
    alarms,
  ];
}
