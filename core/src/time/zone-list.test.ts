import { searchZones, zoneEntry, zoneNames } from './zone-list';

const OCTOBER = Date.parse('2026-10-06T12:00:00Z');
const zones = [
  'Europe/Dublin',
  'America/Argentina/Buenos_Aires',
  'Asia/Kolkata',
  'Europe/Berlin',
  'Pacific/Auckland',
].map((name) => zoneEntry(name, OCTOBER));
const found = (text: string) => searchZones(zones, text).map((zone) => zone.city);

test('a zone as people look for it, with its offset on that day', () => {
  expect(zones[1]).toEqual({
    name: 'America/Argentina/Buenos_Aires',
    city: 'Buenos Aires',
    region: 'America, Argentina',
    offset: 'UTC−3',
    words: 'Argentina Standard Time',
  });
  expect(zones[0]!.offset).toBe('UTC+1');
  expect(zoneEntry('Europe/Dublin', Date.parse('2026-12-06T12:00:00Z')).offset).toBe('UTC+0');
  expect(() => zoneEntry('Europe/Skerrow', OCTOBER)).toThrow(RangeError);
});

test('found by city, region, offset or name, in whatever order; cities that begin so come first', () => {
  expect(found('dub')).toEqual(['Dublin']);
  expect(found('argentina')).toEqual(['Buenos Aires']);
  expect(found('utc+5:30')).toEqual(['Kolkata']);
  expect(found('utc-3')).toEqual(['Buenos Aires']);
  expect(found('+5:30')).toEqual(['Kolkata']);
  // Not in the middle of a word: all have “standard” in their names.
  expect(found('ar')).toEqual(['Buenos Aires']);
  expect(found('new zealand')).toEqual(['Auckland']);
  expect(found('standard time irish')).toEqual(['Dublin']);
  expect(found('b')[0]).toBe('Berlin');
  expect(found('nowhere')).toEqual([]);
  expect(found('')).toHaveLength(zones.length);
});

test('all that the machine knows can be listed', () => {
  expect(zoneNames()).toContain('Europe/Dublin');
});
