import type { Board } from './board.ts';
import type { Score } from './question.ts';

type Chance = (limit: number) => number;

/**
 * Changes a board by moves that chance picks: a work gets more, less or nothing on a stretch; what is in its way there
 * is put elsewhere, and what it leaves is filled. Each move is whole: the board keeps the rules after it.
 */
export class Mover {
  constructor(
    private readonly board: Board,
    private readonly chance: Chance,
  ) {}

  /** Makes a move; says whether anything came of it. What came of it is not settled yet. */
  move(): boolean {
    const { board, chance } = this;
    const work = this.anyWork();
    const { stretches } = board.limits[work]!;
    if (!stretches.length) return false;
    // Now and then straight to the evening before it is due: a polish is worth much.
    const isLast = board.limits[work]!.polishDay >= 0 && chance(8) === 0;
    const stretch = stretches[isLast ? stretches.length - 1 : chance(stretches.length)]!;
    const now = board.at(work, stretch);
    const wanted = this.anyAmount(work, now);
    if (wanted === now) return false;
    return wanted < now ? this.lessen(work, stretch, wanted) : this.raise(work, stretch, wanted);
  }

  /** Puts what is left of a work wherever it fits, beginning anywhere. */
  place(work: number, not = -1): void {
    const { board, chance } = this;
    const { stretches } = board.limits[work]!;
    if (!stretches.length) return;
    const forward = chance(2) ? 1 : stretches.length - 1;
    let at = chance(stretches.length);
    for (let n = 0; n < stretches.length && board.left[work]! > 0; n++) {
      if (stretches[at] !== not) this.grow(work, stretches[at]!);
      at = (at + forward) % stretches.length;
    }
  }

  /** A work; often one of which something is left. */
  private anyWork(): number {
    const { board, chance } = this;
    const count = board.left.length;
    const start = chance(count);
    if (board.unplaced > 0 && chance(3) === 0)
      for (let n = 0; n < count; n++) if (board.left[(start + n) % count]! > 0) return (start + n) % count;
    return start;
  }

  private anyAmount(work: number, now: number): number {
    const { board, chance } = this;
    const { shortest, longest, perDay } = board.limits[work]!;
    const amount = [
      () => now + 1,
      () => now + 1 + chance(4),
      () => longest,
      () => (now ? board.possible(work, now - 1 - chance(3)) : shortest),
      () => (now ? 0 : shortest + chance(longest - shortest + 1)),
      () => now + Math.max(1, board.left[work]!),
    ][chance(6)]!();
    return amount === 0 ? 0 : Math.min(Math.max(amount, shortest), longest * perDay);
  }

  private lessen(work: number, stretch: number, wanted: number): boolean {
    if (!this.board.set(work, stretch, wanted)) return false;
    this.place(work, stretch);
    this.fill(stretch, work);
    return true;
  }

  private raise(work: number, stretch: number, wanted: number): boolean {
    const { board, chance } = this;
    const now = board.at(work, stretch);
    const from = this.gather(work, stretch, wanted - now);
    if (board.left[work]! < wanted - now) wanted = board.possible(work, now + board.left[work]!);
    if (wanted <= now) return false;
    const moved = this.makeRoom(work, stretch, wanted);
    const most = board.most(work, stretch, wanted);
    if (most <= now || !board.set(work, stretch, most)) return false;
    for (const other of moved) this.place(other, stretch);
    this.place(work, stretch);
    if (from >= 0 && chance(2)) this.fill(from, work);
    return true;
  }

  /** Takes a work's steps from other stretches until so many are left; gives the last stretch it took from, or -1. */
  private gather(work: number, not: number, needed: number): number {
    const { board, chance } = this;
    const { stretches } = board.limits[work]!;
    const start = chance(stretches.length);
    let from = -1;
    for (let n = 0; n < stretches.length && board.left[work]! < needed; n++) {
      const stretch = stretches[(start + n) % stretches.length]!;
      const there = stretch === not ? 0 : board.at(work, stretch);
      if (!there) continue;
      const rest = chance(2) ? 0 : board.possible(work, there - (needed - board.left[work]!));
      if (!board.set(work, stretch, rest)) continue;
      from = stretch;
      if (chance(3) === 0) break;
    }
    return from;
  }

  /** Takes others off a stretch until a work fits, or a few have gone; gives them. */
  private makeRoom(work: number, stretch: number, wanted: number): number[] {
    const { board, chance } = this;
    const others = board.worksOn[stretch]!;
    const start = chance(others.length);
    const moved: number[] = [];
    let most = board.most(work, stretch, wanted);
    for (let n = 0; n < others.length && most < wanted; n++) {
      const other = others[(start + n) % others.length]!;
      const there = other === work ? 0 : board.at(other, stretch);
      if (!there) continue;
      const rest = chance(2) ? board.possible(other, there - (wanted - most)) : 0;
      if (!board.set(other, stretch, rest)) continue;
      moved.push(other);
      most = board.most(work, stretch, wanted);
      if (chance(2)) break;
    }
    return moved;
  }

  /** Lets works of which something is left have what is free on a stretch. */
  private fill(stretch: number, not: number): void {
    const { board, chance } = this;
    if (!board.unplaced) return;
    const works = board.worksOn[stretch]!;
    const start = chance(works.length);
    for (let n = 0; n < works.length; n++) {
      const work = works[(start + n) % works.length]!;
      if (work !== not && board.left[work]!) this.grow(work, stretch);
    }
  }

  private grow(work: number, stretch: number): void {
    const { board } = this;
    const there = board.at(work, stretch);
    const most = board.most(work, stretch, there + board.left[work]!);
    if (most > there) board.set(work, stretch, most);
  }
}

/** Way in which a board is judged while it is searched: what a step unplaced, a polish missed and a sitting kept are worth. */
interface Weights {
  unplaced: number;
  unpolished: number;
  kept: number;
}
/** One going over the board: worse is taken up to a threshold that falls to nothing. */
interface Round extends Weights {
  threshold: number;
  /** Begins with the best that was found, not with where the last round ended */
  fromBest?: boolean;
}

/** Worth of a kept sitting in evenness: little, and enough to decide between plans that are as even. */
const KEPT = 8;
const ROUNDS: Round[] = [
  { unplaced: 150, unpolished: 400, kept: KEPT, threshold: 400 },
  { unplaced: 300, unpolished: 600, kept: KEPT, threshold: 800 },
  { unplaced: 1000, unpolished: 2000, kept: KEPT, threshold: 60, fromBest: true },
];

/**
 * Searches for better boards by threshold accepting (Dueck and Scheuer 1990): moves that chance picks, of which those
 * are kept that make it better, or worse by less than a threshold that falls.
 * @param moves how many are tried in all: so it ends alike on every machine, however fast
 * @returns every so many moves, the best picture so far where there is a new one, else null
 */
export function* search(board: Board, chance: Chance, moves: number): Generator<Int32Array | null> {
  const mover = new Mover(board, chance);
  const worth = (weights: Weights) =>
    weights.unplaced * board.unplaced +
    weights.unpolished * board.unpolished +
    board.evenness -
    weights.kept * board.kept;
  let best = inSteps(board);
  let picture = board.picture();
  let isNew = false;
  const each = Math.ceil(moves / ROUNDS.length);
  for (const round of ROUNDS) {
    if (round.fromBest) board.putBack(picture);
    let now = worth(round);
    let threshold = 0;
    for (let n = 0; n < each; n++) {
      if (n % CHUNK === 0) {
        if (n) {
          yield isNew ? picture : null;
          isNew = false;
        }
        const left = 1 - n / each;
        threshold = round.threshold * left * left * left;
      }
      if (!mover.move()) {
        board.undo();
        continue;
      }
      const then = worth(round);
      if (then - now >= (chance(1024) / 1024) * threshold) {
        board.undo();
        continue;
      }
      board.settle();
      now = then;
      if (isBetter(board, best)) {
        best = inSteps(board);
        picture = board.picture();
        isNew = true;
      }
    }
  }
  yield isNew ? picture : null;
}
const inSteps = ({ unplaced, unpolished, evenness, kept }: Score): Score => ({
  unplaced,
  unpolished,
  evenness,
  kept,
});
/** So many moves between two looks: some milliseconds. */
const CHUNK = 2000;

/** Tells whether a plan is better than another: the first of the score that differs decides, and kept ones against evenness. */
export function isBetter(a: Score, b: Score): boolean {
  if (a.unplaced !== b.unplaced) return a.unplaced < b.unplaced;
  if (a.unpolished !== b.unpolished) return a.unpolished < b.unpolished;
  return a.evenness - KEPT * a.kept < b.evenness - KEPT * b.kept;
}
