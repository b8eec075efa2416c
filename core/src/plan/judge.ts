import { type Plan, type Question, type Sitting, shortestOf } from './question.ts';

/** Which rules an answer breaks, in words; none where it keeps them all. */
export function faultsOf(
  question: Question,
  { sittings, unplaced }: Pick<Plan, 'sittings' | 'unplaced'>,
): string[] {
  const faults: string[] = [];
  const say = (s: Sitting, what: string) => faults.push(`${s.work} on day ${s.day} at ${s.from}: ${what}`);
  const works = new Map(question.works.map((w) => [w.id, w]));
  const within = (s: Sitting) =>
    question.free.findIndex((f) => f.day === s.day && f.from <= s.from && s.from + s.minutes <= f.to);
  for (const s of sittings) {
    const work = works.get(s.work);
    if (!work) {
      say(s, 'there is no such work');
      continue;
    }
    if (s.minutes <= 0 || s.minutes % question.step) say(s, `${s.minutes} is no multiple of the step`);
    if (s.minutes < shortestOf(work) || s.minutes > work.longest)
      say(s, `${s.minutes} is too short or too long`);
    if (s.day < work.firstDay || s.day > work.lastDay) say(s, 'the day is too early or too late');
    if (within(s) < 0) say(s, 'the time is not free');
    const onDay = sittings.filter((o) => o.work === s.work && o.day === s.day).length;
    if (onDay > work.perDay) say(s, `${onDay} sittings are too many for a day`);
  }
  const inOrder = [...sittings].sort((a, b) => a.day - b.day || a.from - b.from);
  inOrder.forEach((s, at) => {
    const before = inOrder[at - 1];
    if (before?.day !== s.day) return;
    const pause = within(before) === within(s) ? question.pause : 0;
    if (s.from < before.from + before.minutes + pause) say(s, `it is too close to ${before.work}`);
  });
  for (const { id, minutes } of question.works) {
    const sum = [...sittings, ...unplaced].reduce((all, s) => all + (s.work === id ? s.minutes : 0), 0);
    if (sum !== minutes) faults.push(`${id}: ${sum} of ${minutes} minutes are accounted for`);
  }
  return faults;
}
