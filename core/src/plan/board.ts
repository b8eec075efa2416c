import { type Question, type Score, shortestOf } from './question.ts';

/** Lengths that a work's sittings may have, in steps. */
interface Limits {
  shortest: number;
  longest: number;
  perDay: number;
  /** -1 where no polish is wanted */
  polishDay: number;
  /** The stretches it may lie on, by time */
  stretches: number[];
}

/**
 * How much of each work lies on each stretch, in steps, with what that is worth kept beside it. How many sittings the
 * steps of a work on a stretch are follows from how many they are: as few as may be. Where in its stretch a sitting
 * lies is left for later, since nothing depends on it.
 */
export class Board {
  readonly limits: Limits[];
  /** The works that may lie on each stretch */
  readonly worksOn: number[][];
  /** Steps of each work that have no place */
  readonly left: number[];
  unplaced = 0;
  unpolished = 0;
  evenness = 0;
  kept = 0;

  /** Steps of a work on a stretch, and how many sittings they are: work × stretches + stretch */
  private readonly steps: Int32Array;
  private readonly counts: Int32Array;
  /** The same by day: work × days + day */
  private readonly dayCounts: Int32Array;
  private readonly daySteps: Int32Array;
  /** Minutes that make no whole step */
  private readonly odd: number;
  private readonly days: number[];
  /** Minutes that are free on each stretch, and one pause: each sitting takes its length and a pause */
  private readonly room: number[];
  /** Steps that stand on each day */
  private readonly load: number[];
  /** By work and day, the steps from which each kept sitting counts as kept */
  private readonly wanted = new Map<number, number[]>();
  /** What takes the latest changes back: work, stretch, steps */
  private readonly log: number[] = [];

  constructor(private readonly question: Question) {
    const { works, free, step, pause, fixed, keep } = question;
    this.days = free.map((s) => s.day);
    this.room = free.map((s) => s.to - s.from + pause);
    this.load = Array.from({ length: question.days }, (_, day) => Math.floor((fixed[day] ?? 0) / step));
    this.left = works.map((w) => Math.floor(w.minutes / step));
    this.odd = works.reduce((sum, w) => sum + (w.minutes % step), 0);
    this.limits = works.map((w) => ({
      shortest: Math.max(1, Math.ceil(shortestOf(w) / step)),
      longest: Math.floor(w.longest / step),
      perDay: w.perDay,
      polishDay: w.polish ? w.lastDay : -1,
      stretches: free.flatMap((s, at) =>
        s.day >= w.firstDay && s.day <= w.lastDay && s.to - s.from >= shortestOf(w) ? [at] : [],
      ),
    }));
    this.worksOn = free.map(() => []);
    this.limits.forEach(({ stretches }, w) => stretches.forEach((s) => this.worksOn[s]!.push(w)));
    this.steps = new Int32Array(works.length * free.length);
    this.counts = new Int32Array(this.steps.length);
    this.dayCounts = new Int32Array(works.length * question.days);
    this.daySteps = new Int32Array(this.dayCounts.length);
    const workOf = new Map(works.map((w, at) => [w.id, at]));
    for (const { work, day, minutes } of keep) {
      const w = workOf.get(work);
      if (w === undefined || day < 0 || day >= question.days) continue;
      const at = w * question.days + day;
      this.wanted.set(at, [...(this.wanted.get(at) ?? []), Math.ceil(minutes / 2 / step)]);
    }
    this.unplaced = this.left.reduce((sum, steps) => sum + steps, 0);
    this.unpolished = works.filter((w) => w.polish).length;
    this.evenness = this.load.reduce((sum, steps) => sum + steps * steps, 0);
  }

  /** Steps of a work on a stretch. */
  at(work: number, stretch: number): number {
    return this.steps[work * this.days.length + stretch]!;
  }

  dayOf(stretch: number): number {
    return this.days[stretch]!;
  }

  score(): Score {
    const { unpolished, evenness, kept } = this;
    return { unplaced: this.unplaced * this.question.step + this.odd, unpolished, evenness, kept };
  }

  /** The next smaller number of steps that can be split into sittings; 0 where there is none. */
  possible(work: number, steps: number): number {
    const { shortest, longest } = this.limits[work]!;
    if (steps < shortest) return 0;
    const count = countOf(steps, longest);
    return count * shortest <= steps ? steps : (count - 1) * longest;
  }

  /** The most steps, up to what is wanted, that a work can have on a stretch as all else stands. */
  most(work: number, stretch: number, wanted: number): number {
    const { shortest, longest, perDay } = this.limits[work]!;
    const { step, pause } = this.question;
    const at = work * this.days.length + stretch;
    const elsewhere = this.dayCounts[work * this.question.days + this.days[stretch]!]! - this.counts[at]!;
    const space = this.room[stretch]! + this.steps[at]! * step + this.counts[at]! * pause;
    let most = 0;
    for (let count = 1; count <= perDay - elsewhere; count++) {
      const steps = Math.min(Math.floor((space - count * pause) / step), count * longest, wanted);
      if (steps > most && steps >= count * shortest && countOf(steps, longest) === count) most = steps;
    }
    return most;
  }

  /** Gives a work so many steps on a stretch, where the rules allow it; says whether they did. */
  set(work: number, stretch: number, steps: number): boolean {
    const { shortest, longest, perDay } = this.limits[work]!;
    const at = work * this.days.length + stretch;
    const before = this.steps[at]!;
    if (steps === before) return true;
    const count = countOf(steps, longest);
    const more = count - this.counts[at]!;
    const day = work * this.question.days + this.days[stretch]!;
    const takes = (steps - before) * this.question.step + more * this.question.pause;
    if (count * shortest > steps || this.dayCounts[day]! + more > perDay) return false;
    if (this.left[work]! < steps - before || takes > this.room[stretch]!) return false;
    this.log.push(work, stretch, before);
    this.put(work, stretch, steps);
    return true;
  }

  /** Lets what was changed since then stand. */
  settle(): void {
    this.log.length = 0;
  }

  /** Takes back what was changed since it was last settled. */
  undo(): void {
    while (this.log.length) {
      const [work, stretch, steps] = this.log.splice(-3) as [number, number, number];
      this.put(work, stretch, steps);
    }
  }

  /** Counts how many places a move looks at, about: the stretches of a work and the works of a stretch. */
  places(): number {
    const pairs = this.limits.reduce((sum, { stretches }) => sum + stretches.length, 0);
    return pairs / Math.max(1, this.limits.length) + pairs / Math.max(1, this.days.length);
  }

  /** Gives what lies where, to be put back some time. */
  picture(): Int32Array {
    return this.steps.slice();
  }

  putBack(picture: Int32Array): void {
    const each = (change: (work: number, stretch: number, steps: number) => void) =>
      this.limits.forEach(({ stretches }, w) =>
        stretches.forEach((s) => change(w, s, picture[w * this.days.length + s]!)),
      );
    // What goes makes room for what comes.
    each((w, s, steps) => steps < this.at(w, s) && this.put(w, s, steps));
    each((w, s, steps) => steps > this.at(w, s) && this.put(w, s, steps));
    this.settle();
  }

  private put(work: number, stretch: number, steps: number): void {
    const { longest, polishDay } = this.limits[work]!;
    const at = work * this.days.length + stretch;
    const day = this.days[stretch]!;
    const onDay = work * this.question.days + day;
    const more = steps - this.steps[at]!;
    const count = countOf(steps, longest);
    const moreSittings = count - this.counts[at]!;
    this.steps[at] = steps;
    this.counts[at] = count;
    this.room[stretch]! -= more * this.question.step + moreSittings * this.question.pause;
    this.left[work]! -= more;
    this.unplaced -= more;
    const had = this.dayCounts[onDay]!;
    this.dayCounts[onDay] = had + moreSittings;
    if (day === polishDay) this.unpolished += Number(had + moreSittings === 0) - Number(had === 0);
    const load = this.load[day]!;
    this.load[day] = load + more;
    this.evenness += more * (2 * load + more);
    const wanted = this.wanted.get(onDay);
    const before = this.daySteps[onDay]!;
    this.daySteps[onDay] = before + more;
    if (wanted)
      for (const least of wanted) this.kept += Number(before + more >= least) - Number(before >= least);
  }
}

/** The fewest sittings that so many steps can be split into. */
const countOf = (steps: number, longest: number) => Math.floor((steps + longest - 1) / longest);
