/** First line of a mail that can be answered: whatever stands below it is ours and not the answer. */
export const ANSWER_ABOVE = '· · · Write your answer above this line · · ·';

/** Lines with which mail programs begin what they quote; looked at one by one, so that no text takes long. */
const BEGINS: readonly RegExp[] = [
  /^-{2,}\s*(original message|forwarded message|ursprüngliche nachricht|message d'origine|mensaje original)/i,
  /^_{10,}$/,
  /^(from|von|de)\s?:\s.{1,200}@/i,
];
/** `On Tue 6 Oct 2026, Anselm wrote:` in some languages; it may be broken into two lines. */
const WROTE = /^(on|am|le|el|op)\s.{4,300}\s(wrote|schrieb|écrit|escribió|schreef)(\s.{0,120})?:$/i;
/** Longer answers are cut: nobody reads them as a note. */
const LONGEST = 8_000;
const MOST_LINES = 2_000;

/**
 * What somebody has written in answer to a mail: without what their program quotes below it, without a signature (RFC
 * 3676 4.3), and without lines that are quoted (`>`) at its end.
 */
export function answerIn(text: string): string {
  const lines = text.slice(0, 200_000).split(/\r?\n/, MOST_LINES);
  const end = lines.findIndex((line, i) => {
    const words = line.trim().slice(0, 400);
    const withNext = `${words} ${(lines[i + 1] ?? '').trim().slice(0, 200)}`;
    return (
      words.includes(ANSWER_ABOVE) ||
      line === '-- ' ||
      BEGINS.some((begins) => begins.test(words)) ||
      WROTE.test(words) ||
      (/^(on|am|le|el|op)\s/i.test(words) && WROTE.test(withNext))
    );
  });
  const own = end < 0 ? lines : lines.slice(0, end);
  while (own.length && /^\s*(>|$)/.test(own.at(-1)!)) own.pop();
  return own.join('\n').trim().slice(0, LONGEST);
}
