import fc from 'fast-check';
import { DAY } from '../time/civil';
import { ianaZone } from '../time/zone';
import { zoneNames } from '../time/zone-list';
import { cut } from './cut';
import { parseComponent } from './property';
import { textOf } from './write';
import { ZoneBlocks } from './zone-blocks';
import { readObservances, zoneOfObservances } from './zones';

const NOW = Date.parse('2026-10-06T00:00:00Z');

/** A zone by what its VTIMEZONE says, for a program that knows no zones by itself. */
function byItsBlock(name: string) {
  const zones = new ZoneBlocks();
  zones.within({}).of(name);
  const [block] = zones.blocks();
  if (!block) return null;
  const text = textOf(['vcalendar', [['version', {}, 'text', '2.0']], [block]]);
  const [found] = cut(text)!.zones;
  return zoneOfObservances(name, readObservances(parseComponent(found!.name, found!.lines, () => {})))!;
}

test('a zone goes out with its hours of the years to come, for readers that know no zones by themselves', () => {
  const odd: string[] = [];
  for (const name of zoneNames()) {
    const known = ianaZone(name)!;
    const block = byItsBlock(name);
    // Without a block its times go out in UTC.
    if (!block) continue;
    for (let day = 0; day < 1_200; day += 7)
      if (known.offsetAt(NOW + day * DAY) !== block.offsetAt(NOW + day * DAY)) {
        odd.push(`${name} ${new Date(NOW + day * DAY).toISOString()}`);
        break;
      }
  }
  expect(odd).toEqual([]);
});

test('two feeds that mean different hours by one name get two names', () => {
  const fixed = (offset: number) => [
    { start: '1970-01-01T00:00:00', offsetFrom: offset, offsetTo: offset, rules: [], dates: [] },
  ];
  fc.assert(
    fc.property(
      fc.uniqueArray(fc.integer({ min: -12, max: 14 }), { minLength: 1, maxLength: 5 }),
      (hours) => {
        const zones = new ZoneBlocks();
        const named = hours.map((h) => zones.within({ Harbour: fixed(h * 3_600_000) }).of('Harbour')!);
        expect(new Set(named.map((zone) => zone.tzid)).size).toBe(hours.length);
        expect(named.map((zone) => zone.zone.offsetAt(NOW))).toEqual(hours.map((h) => h * 3_600_000));
        expect(zones.blocks()).toHaveLength(hours.length);
      },
    ),
  );
});
