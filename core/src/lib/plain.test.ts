import fc from 'fast-check';
import { plain } from './plain';

test.each([
  ['Élan', 'elan'],
  ['ØRSTA', 'ørsta'],
  ['Ångström', 'angstrom'],
  ['İzmir', 'izmir'],
])('%s is searched as %s', (text, found) => expect(plain(text)).toBe(found));

test('what is plain stays as it is, however it was composed', () => {
  fc.assert(
    fc.property(fc.string({ unit: 'grapheme' }), (text) => {
      expect(plain(plain(text))).toBe(plain(text));
      expect(plain(text.normalize('NFC'))).toBe(plain(text));
    }),
  );
});
