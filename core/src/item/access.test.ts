import fc from 'fast-check';
import { ACCESSES, OTHERS_SEE, may, sightOf, suffices, type Guarded, type Standing } from './access';
import { CODE_LENGTH, marksOf, newCode, readCode, spacedCode } from './crew';

const standing = fc.record<Standing>({
  personId: fc.constantFrom('juno', 'maren', 'anselm'),
  access: fc.constantFrom(...ACCESSES),
  isSelf: fc.boolean(),
});
const guarded = fc.record<Guarded>({
  audience: fc.option(
    fc.record({
      persons: fc.subarray(['juno', 'maren', 'anselm']),
      others: fc.constantFrom(...OTHERS_SEE),
    }),
  ),
  madeBy: fc.option(fc.constantFrom('juno', 'maren', 'anselm')),
});

test('whoever a calendar is kept from may do nothing with it, whatever they may do otherwise', () => {
  fc.assert(
    fc.property(
      standing,
      guarded,
      fc.constantFrom(...ACCESSES, 'keepFrom' as const),
      (who, calendar, deed) => {
        if (sightOf(who.personId, calendar) !== 'all') expect(may(who, deed, calendar)).toBe(false);
        else if (deed !== 'keepFrom') expect(may(who, deed, calendar)).toBe(suffices(who.access, deed));
      },
    ),
  );
});

test('whom a calendar is for is said by who keeps the schedule, whose it is, or who made the calendar', () => {
  const open: Guarded = { audience: null, madeBy: 'anselm' };
  const edits = { access: 'edit', isSelf: false } as const;
  expect(may({ personId: 'maren', access: 'keep', isSelf: false }, 'keepFrom', open)).toBe(true);
  expect(may({ personId: 'juno', access: 'edit', isSelf: true }, 'keepFrom', open)).toBe(true);
  expect(may({ personId: 'anselm', ...edits }, 'keepFrom', open)).toBe(true);
  expect(may({ personId: 'wren', ...edits }, 'keepFrom', open)).toBe(false);
  expect(may({ personId: 'juno', access: 'tick', isSelf: true }, 'keepFrom', open)).toBe(false);
});

test('a code is eight signs that are hard to confuse, and is read however it is typed', () => {
  fc.assert(
    fc.property(fc.infiniteStream(fc.integer({ min: 0, max: 255 })), (bytes) => {
      const code = newCode((n) => Uint8Array.from({ length: n }, () => bytes.next().value as number));
      expect(code).toMatch(/^[2-9ACEFHJKMPRTUWXY]{8}$/);
      expect(code).toHaveLength(CODE_LENGTH);
      expect(readCode(` ${spacedCode(code).toLowerCase()}`)).toBe(code);
      expect(readCode(code.replaceAll('5', 'S').replaceAll('8', 'b'))).toBe(code);
    }),
  );
  expect([readCode('AAAA222'), readCode('AAAA222O'), readCode('')]).toEqual([null, null, null]);
});

test('marks tell any learners apart, also where names are alike or begin with what is no letter', () => {
  const name = fc.oneof(
    fc.constantFrom('Juno A', 'Juno B', 'Jan Abel', 'juno', '𝒥ot Æ'),
    fc.string({ minLength: 1 }),
  );
  fc.assert(
    fc.property(fc.array(name, { maxLength: 40 }), (names) => {
      const marks = marksOf(names);
      expect(new Set(marks).size).toBe(names.length);
    }),
  );
  expect(marksOf(['Juno Amadi', 'Tobias Amadi'])).toEqual(['J', 'T']);
  expect(marksOf(['Juno 1', 'Juno Amadi', 'Jan Abel'])).toEqual(['J1', 'J2', 'J3']);
  expect(marksOf(['Juno Amadi', 'Jan Brannagh', '🦉'])).toEqual(['JA', 'JB', '🦉']);
});
