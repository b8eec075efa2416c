import type { Board } from './board.ts';
import type { Question, Sitting } from './question.ts';

/**
 * Says at what time each sitting lies: one after the other from the beginning of its stretch, with a pause between. What
 * was kept stays at its time as far as there is room, and in its order.
 */
export function layOut(question: Question, board: Board): Sitting[] {
  const keptOn = new Map<string, Question['keep'][number][]>();
  for (const k of question.keep) {
    const on = `${k.day} ${k.work}`;
    const others = keptOn.get(on);
    if (others) others.push(k);
    else keptOn.set(on, [k]);
  }
  return question.free.flatMap((stretch, s) => {
    const on = board.worksOn[s]!.filter((w) => board.at(w, s) > 0).flatMap((w) => {
      const { id, longest } = question.works[w]!;
      const lengths = splitEvenly(board.at(w, s), Math.floor(longest / question.step));
      const kept = question.keep
        .filter(
          (k) => k.work === id && k.day === stretch.day && k.from >= stretch.from && k.from < stretch.to,
        )
        .sort((a, b) => a.from - b.from);
      return lengths.map((steps, n) => ({
        work: id,
        minutes: steps * question.step,
        wanted: kept[n]?.from ?? null,
      }));
    });
    // What has no time of its own goes behind what has.
    on.sort((a, b) => (a.wanted ?? Infinity) - (b.wanted ?? Infinity));
    return atTimes(on, stretch, question.pause);
  });
}

/** Splits steps into as few sittings as may be, as even as whole steps allow. */
function splitEvenly(steps: number, longest: number): number[] {
  const count = Math.ceil(steps / longest);
  return Array.from({ length: count }, (_, n) => Math.floor((steps + n) / count)).reverse();
}

function atTimes(
  on: readonly { work: string; minutes: number; wanted: number | null }[],
  stretch: Question['free'][number],
  pause: number,
): Sitting[] {
  // From the end: the latest each may begin so that all behind it still fit.
  const latest: number[] = [];
  let end = stretch.to;
  for (const { minutes } of [...on].reverse()) {
    latest.unshift(end - minutes);
    end -= minutes + pause;
  }
  let next = stretch.from;
  return on.map(({ work, minutes, wanted }, n) => {
    const from = Math.min(Math.max(next, wanted ?? next), latest[n]!);
    next = from + minutes + pause;
    return { work, day: stretch.day, from, minutes };
  });
}
