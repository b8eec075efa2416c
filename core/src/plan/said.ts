/** `2 h`, `1.5 hours`, `30 minutes`, `45–60 min`: the last number before the unit counts. */
const LENGTH = /(\d{1,3}(?:[.,]\d)?) ?(hours?|hrs?|h|minutes?|mins?)\b/gi;
/** What is longer than this is no length of one piece of work. */
const MOST = 60 * 60;

/** Tells how long a text says that work takes, in minutes: the longest that it names; null where it names none. */
export function minutesSaid(text: string): number | null {
  let most: number | null = null;
  for (const [, number, unit] of text.slice(0, 20_000).matchAll(LENGTH)) {
    const minutes = Math.round(Number(number!.replace(',', '.')) * (/^h/i.test(unit!) ? 60 : 1));
    if (minutes >= 5 && minutes <= MOST && minutes > (most ?? 0)) most = minutes;
  }
  return most;
}
