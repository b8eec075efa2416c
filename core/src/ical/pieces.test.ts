import { bytes, calendar, event, todo } from '../../test/feeds';
import { piecesOf } from './pieces';

const pieces = (text: string) => piecesOf(text, bytes(text));
const DAY = 'DTSTART;VALUE=DATE:20261012';
const A = event('UID:a', 'SUMMARY:Keel plan', DAY);
const B = todo('UID:b', 'SUMMARY:Leaf log ü', 'DUE;VALUE=DATE:20261013');

describe('pieces', () => {
  test('are the entries, each under its UID, and know what stands otherwise', () => {
    const found = pieces(calendar(A, B))!;
    expect(found.uids()).toEqual(['a', 'b']);
    const other = pieces(calendar(B, A.replace('Keel', 'Hull')))!;
    expect([...other.digests].filter((d) => found.digests.includes(d))).toHaveLength(1);
    expect(other.total).not.toBe(found.total);
  });

  test('do not see stamps, folded ones too, or order; plain text and other text are one', () => {
    const stamp = (text: string) => text.replaceAll(/DTSTAMP:.*/g, 'DTSTAMP;X=1:2099\r\n 0101T000000Z');
    expect(pieces(calendar(stamp(B), stamp(A)))!.total).toBe(pieces(calendar(A, B))!.total);
    expect(pieces(calendar(A))!.digests[0]).toBe(pieces(calendar(A, B))!.digests[0]);
  });

  test.each([
    ['a line that ends in CR alone', calendar(A).replace('SUMMARY', '\rSUMMARY')],
    ['two calendars', calendar(A) + calendar(B)],
    ['no end', calendar(A).replace('END:VCALENDAR', '')],
    ['no entry', calendar()],
  ])('are not told apart where there is %s', (_, text) => {
    expect(pieces(text)).toBeNull();
  });

  test.each([
    ['folded', A.replace('UID:a', 'UID:a\r\n bc')],
    ['behind an alarm', A.replace('UID:a', 'BEGIN:VALARM\r\nUID:x\r\nEND:VALARM\r\nUID:a')],
    ['in what does not end', A.replace('SUMMARY', 'BEGIN:VALARM\r\nSUMMARY')],
    ['with something after the entry', `${A}\r\nX-NOTE:1`],
    ['missing', A.replace('UID:a\r\n', '')],
  ])('have no UID where it is %s', (_, text) => {
    expect(pieces(calendar(text, B))!.uids()).toEqual([null, 'b']);
  });

  test('a line of what is kept is found in the whole', () => {
    const text = calendar(A, B, A.replace('UID:a', 'UID:c'));
    const rest = pieces(text)!.keep((i) => i === 2);
    const at = rest.text.split('\r\n').indexOf('UID:c') + 1;
    expect(rest.lineOf(at)).toBe(text.split('\r\n').indexOf('UID:c') + 1);
    expect(rest.lineOf(1)).toBe(1);
  });
});
