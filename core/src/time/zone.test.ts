import fc from 'fast-check';
import { Temporal } from 'temporal-polyfill';
import { formatInstant, formatLocal, parseDate, parseInstant, parseLocal } from './civil';
import { dayIn, instantIn } from './when';
import { ianaZone } from './zone';

const ZONES = [
  'Europe/Dublin',
  'America/New_York',
  'Asia/Kolkata',
  'Pacific/Pago_Pago',
  'Australia/Lord_Howe',
  'Africa/Casablanca',
  'America/Sao_Paulo',
  'Pacific/Auckland',
];
const from = Date.parse('1960-01-01T00:00:00Z') / 1000;
const to = Date.parse('2050-01-01T00:00:00Z') / 1000;

test('agrees with Temporal both ways, at any moment, in gaps and overlaps too', () => {
  fc.assert(
    fc.property(fc.constantFrom(...ZONES), fc.integer({ min: from, max: to }), (name, seconds) => {
      const zone = ianaZone(name)!;
      const instant = seconds * 1000;
      expect(zone.offsetAt(instant)).toBe(
        Temporal.Instant.fromEpochMilliseconds(instant).toZonedDateTimeISO(name).offsetNanoseconds / 1e6,
      );
      const local = formatLocal(instant);
      expect(formatInstant(zone.toInstant(instant))).toBe(
        formatInstant(Temporal.PlainDateTime.from(local).toZonedDateTime(name).epochMilliseconds),
      );
    }),
    { numRuns: 600, seed: 5 },
  );
});

/** The moments at which a zone's clocks change in some years, as Temporal knows them. */
function changesOf(name: string, from: string, to: string): number[] {
  const found: number[] = [];
  const end = Date.parse(to);
  let at = Temporal.Instant.from(from).toZonedDateTimeISO(name).getTimeZoneTransition('next');
  for (; at && at.epochMilliseconds < end; at = at.getTimeZoneTransition('next'))
    found.push(at.epochMilliseconds);
  return found;
}

/** Gives what each way says just around a change: before, at and after it, and on the clocks that skip or repeat. */
function aroundChange(name: string, at: number): [ours: string[], theirs: string[]] {
  const zone = ianaZone(name)!;
  const offset = (ms: number) =>
    Temporal.Instant.fromEpochMilliseconds(ms).toZonedDateTimeISO(name).offsetNanoseconds / 1e6;
  const [before, after] = [offset(at - 1000), offset(at)];
  const locals = [at + before, at + after].flatMap((local) => [local - 1000, local, local + 1000]);
  const instants = [at - 1000, at, at + 1000];
  return [
    [
      ...instants.map((ms) => `${ms} ${zone.offsetAt(ms)}`),
      ...locals.map((ms) => `${ms} is ${zone.toInstant(ms)}`),
    ],
    [
      ...instants.map((ms) => `${ms} ${offset(ms)}`),
      ...locals.map(
        (ms) =>
          `${ms} is ${Temporal.PlainDateTime.from(formatLocal(ms)).toZonedDateTime(name).epochMilliseconds}`,
      ),
    ],
  ];
}

test.each([...ZONES, 'America/Havana', 'Asia/Beirut', 'America/Santiago', 'Africa/Cairo', 'Asia/Tehran'])(
  'agrees with Temporal at every change of clocks from 1970 to 2037 in %s',
  (name) => {
    const changes = changesOf(name, '1970-01-01T00:00:00Z', '2038-01-01T00:00:00Z');
    for (const at of changes) {
      const [ours, theirs] = aroundChange(name, at);
      expect(ours).toEqual(theirs);
    }
  },
);
test('agrees with Temporal at every change of clocks of every zone in these years', () => {
  for (const name of Intl.supportedValuesOf('timeZone'))
    for (const at of changesOf(name, '2024-01-01T00:00:00Z', '2029-01-01T00:00:00Z')) {
      const [ours, theirs] = aroundChange(name, at);
      expect([name, ...ours]).toEqual([name, ...theirs]);
    }
});

test('a time that clocks skip is read with the offset before, one that comes twice is its first', () => {
  const dublin = ianaZone('Europe/Dublin')!;
  expect(formatInstant(dublin.toInstant(parseLocal('2027-03-28T01:30:00')))).toBe('2027-03-28T01:30:00Z');
  expect(dublin.exists(parseLocal('2027-03-28T01:30:00'))).toBe(false);
  expect(formatInstant(dublin.toInstant(parseLocal('2026-10-25T01:30:00')))).toBe('2026-10-25T00:30:00Z');
  expect(dublin.exists(parseLocal('2026-10-25T01:30:00'))).toBe(true);
});

test('names are found in any case, and only names', () => {
  expect(ianaZone('europe/dublin')?.id).toBe('Europe/Dublin');
  for (const name of ['', 'Harbour', '+01:00', '../etc/passwd', '__proto__', 'constructor'])
    expect(ianaZone(name)).toBeUndefined();
});

test('an all-day date is the same day everywhere, an instant is not', () => {
  const [pago, tokyo] = [ianaZone('Pacific/Pago_Pago')!, ianaZone('Asia/Tokyo')!];
  const date = { kind: 'date', date: '2026-10-06' } as const;
  expect([dayIn(date, pago), dayIn(date, tokyo)]).toEqual([parseDate('2026-10-06'), parseDate('2026-10-06')]);
  const instant = { kind: 'instant', at: '2026-10-06T22:59:00Z', zone: 'UTC' } as const;
  expect(dayIn(instant, tokyo) - dayIn(instant, pago)).toBe(1);
  expect(instantIn(instant, pago)).toBe(instantIn(instant, tokyo));
});

test.each(['2026-11-31', '2026-02-29', '2026-13-01', '26-1-1', ''])('there is no day %j', (text) =>
  expect(parseDate(text)).toBeNaN(),
);
test.each(['2026-11-30T24:00:00', '2026-11-30T10:60:00', '2026-11-31T10:00:00'])(
  'there is no time %j',
  (text) => expect(parseInstant(text + 'Z')).toBeNaN(),
);
