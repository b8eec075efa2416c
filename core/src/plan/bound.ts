import { type Question, type Score, shortestOf } from './question.ts';

/**
 * What no plan can be better than: how much has to stay unplaced and how uneven the days have to be at least, if
 * sittings could be as short as a step and needed no pause. A plan that reaches it is proved the best.
 *
 * The steps go one by one to the day that has least, over a path along which others make room: since what fits on the
 * days together is a polymatroid, that gives both the most that can be placed and, of that, the evenest.
 * @returns null where that would take too long to work out
 */
export function bestPossible(question: Question): Score | null {
  if (effort(question) > MOST_EFFORT) return null;
  const { works, step, pause, days } = question;
  const room = Array.from({ length: days }, () => 0);
  for (const { day, from, to } of question.free) room[day]! += Math.floor((to - from) / step);
  const load = Array.from({ length: days }, (_, day) => Math.floor((question.fixed[day] ?? 0) / step));
  const free = [...room];
  /** The most steps of a work on a day */
  const cap = works.map((work) => {
    const most = Array.from({ length: days }, () => 0);
    for (const { day, from, to } of question.free) {
      if (day < work.firstDay || day > work.lastDay || to - from < shortestOf(work)) continue;
      // So many sittings fit on the stretch, each with its pause; the fewer they are, the longer they may be.
      const sittings = Math.min(work.perDay, Math.floor((to - from + pause) / (shortestOf(work) + pause)));
      most[day]! += Math.min(Math.floor((to - from) / step), sittings * Math.floor(work.longest / step));
    }
    return most.map((steps) => Math.min(steps, work.perDay * Math.floor(work.longest / step)));
  });
  const placed = works.map(() => new Int32Array(days));
  let unplaced = 0;
  for (const [at, work] of works.entries()) {
    let left = Math.floor(work.minutes / step);
    for (; left > 0; left--) {
      const path = toEmptiest(at);
      if (!path) break;
      const day = path.at(-1)!.day;
      for (const { work: w, day: d, from } of path) {
        if (from >= 0) placed[w]![from]!--;
        placed[w]![d]!++;
      }
      free[day]!--;
      load[day]!++;
    }
    unplaced += left;
  }
  const range = new Map(works.map((w) => [w.id, w]));
  const kept = question.keep.filter(({ work, day }) => {
    const its = range.get(work);
    return its !== undefined && day >= its.firstDay && day <= Math.min(its.lastDay, days - 1);
  }).length;
  const unpolished = works.filter((w, at) => w.polish && !((cap[at]![w.lastDay] ?? 0) > 0)).length;
  return {
    unplaced: works.reduce((sum, w) => sum + (w.minutes % step), unplaced * step),
    unpolished,
    kept,
    evenness: load.reduce((sum, steps) => sum + steps * steps, 0),
  };

  /** The way of one more step of a work to the day with least on it: onto a day, and what it pushes from there on. */
  function toEmptiest(work: number): { work: number; day: number; from: number }[] | null {
    const cameBy = new Map<number, { work: number; from: number }>();
    const open: number[] = [];
    const reach = (w: number, from: number) => {
      for (let d = works[w]!.firstDay; d <= works[w]!.lastDay && d < days; d++)
        if (!cameBy.has(d) && placed[w]![d]! < cap[w]![d]!) {
          cameBy.set(d, { work: w, from });
          open.push(d);
        }
    };
    reach(work, -1);
    for (let n = 0; n < open.length; n++)
      for (let w = 0; w < works.length; w++) if (placed[w]![open[n]!]! > 0) reach(w, open[n]!);
    const [best] = open.filter((d) => free[d]! > 0).sort((a, b) => load[a]! - load[b]!);
    if (best === undefined) return null;
    const path: { work: number; day: number; from: number }[] = [];
    for (let d = best; d >= 0; d = cameBy.get(d)!.from) path.unshift({ ...cameBy.get(d)!, day: d });
    return path;
  }
}

/** Steps to be placed, times what is looked at for each of them: some half a second. */
const MOST_EFFORT = 3e7;
function effort({ works, step, days }: Question): number {
  const steps = works.reduce((sum, w) => sum + w.minutes / step, 0);
  const reached = works.reduce((sum, w) => sum + Math.max(0, Math.min(days, w.lastDay + 1) - w.firstDay), 0);
  return steps * reached;
}
