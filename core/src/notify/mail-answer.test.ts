import fc from 'fast-check';
import { ANSWER_ABOVE, answerIn } from './mail-answer';

const ANSWER = 'Yes, Thursday is fine.\n\nShe will bring the chart.';

test.each([
  ['our own line', `${ANSWER}\n\n> ${ANSWER_ABOVE}\n> Can you come on Thursday?`],
  [
    'a line that says who wrote',
    `${ANSWER}\n\nOn Tue, 6 Oct 2026 at 16:10, Anselm Okonjo <a@b.example> wrote:\n> Can you come?`,
  ],
  [
    'the same, broken in two',
    `${ANSWER}\n\nOn Tue, 6 Oct 2026 at 16:10, Anselm Okonjo via Zephyrfield\n<note@b.example> wrote:\n\n> Can you come?`,
  ],
  ['the same in German', `${ANSWER}\n\nAm 06.10.2026 um 16:10 schrieb Anselm Okonjo:\n> Kommen Sie?`],
  ['an original message', `${ANSWER}\n\n-----Original Message-----\nFrom: Anselm\nCan you come?`],
  ['a head of the quoted mail', `${ANSWER}\n\nFrom: Anselm Okonjo <note@b.example>\nSent: Tuesday`],
  ['a signature', `${ANSWER}\n\n-- \nMaren Lindqvist\nSent from the kitchen`],
  ['quoted lines at its end', `${ANSWER}\n> Can you come on Thursday?\n>`],
  ['lines that end otherwise', `${ANSWER.replace(/\n/g, '\r\n')}\r\n\r\n-- \r\nMaren`],
])('an answer by mail ends before %s', (_name, text) => {
  expect(answerIn(text)).toBe(ANSWER);
});

test('what is quoted in the middle, and words like those of a program, stay', () => {
  const text = '> Can you come on Thursday?\nYes.\n\nOn Monday we were away.\nFrom: the boat shed';
  expect(answerIn(text)).toBe(text);
  expect(answerIn('> only\n> quoted')).toBe('');
});

test('no text takes long, and nothing is made up', () => {
  fc.assert(
    fc.property(fc.string({ maxLength: 400 }), (text) => {
      const found = answerIn(text);
      expect(text.replace(/\r\n/g, '\n')).toContain(found.replace(/\r\n/g, '\n'));
    }),
  );
});
