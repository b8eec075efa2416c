import { Board } from './board.ts';
import { bestPossible } from './bound.ts';
import { chance } from './chance.ts';
import { layOut } from './lay-out.ts';
import type { Plan, Question } from './question.ts';
import { Mover, search } from './search.ts';

/** Number of moves that are tried: some two seconds on a small computer. */
const MOVES = 900_000;
/** Of a question in which a move looks at more places than this, so many fewer. */
const PLACES = 60;
/** Any number: the same question has to give the same plan. */
const SEED = 20_261_006;

/**
 * Answers a question: a first good plan at once, then better ones, until one is proved the best or all moves are tried.
 * Between two of them it gives null, so that whoever asked can stop. The same question gives the same plans everywhere.
 * @param moves how many are tried at most
 */
export function* planner(question: Question, moves = MOVES): Generator<Plan | null, void> {
  const board = new Board(question);
  const dice = chance(SEED);
  begin(question, board, new Mover(board, dice));
  yield planOf(question, board, false);
  const bound = bestPossible(question);
  const isBest = ({ unplaced, unpolished, evenness, kept }: Plan['score']) =>
    bound !== null &&
    unplaced <= bound.unplaced &&
    unpolished <= bound.unpolished &&
    evenness <= bound.evenness &&
    kept >= bound.kept;
  if (isBest(board.score())) {
    yield planOf(question, board, true);
    return;
  }
  const shown = new Board(question);
  const few = Math.ceil(moves * Math.min(1, PLACES / board.places()));
  for (const picture of search(board, dice, few)) {
    if (!picture) {
      yield null;
      continue;
    }
    shown.putBack(picture);
    const proved = isBest(shown.score());
    yield planOf(question, shown, proved);
    if (proved) return;
  }
}

/** The last plan that a question is answered with. */
export function planAll(question: Question, moves = MOVES): Plan {
  let last: Plan | null = null;
  for (const plan of planner(question, moves)) last = plan ?? last;
  return last!;
}

/** Gives what was kept stays where it was; the rest is put where it fits, what is due first before the others. */
function begin(question: Question, board: Board, mover: Mover): void {
  const workOf = new Map(question.works.map((w, at) => [w.id, at]));
  for (const { work, day, from, minutes } of question.keep) {
    const w = workOf.get(work);
    if (w === undefined) continue;
    const stretches = board.limits[w]!.stretches.filter((s) => board.dayOf(s) === day);
    const isIn = (s: number) => question.free[s]!.from <= from && from < question.free[s]!.to;
    const stretch = stretches.find(isIn) ?? stretches[0];
    if (stretch === undefined) continue;
    const there = board.at(w, stretch);
    board.set(
      w,
      stretch,
      board.most(w, stretch, there + Math.min(Math.ceil(minutes / question.step), board.left[w]!)),
    );
  }
  const order = [...question.works.keys()].sort(
    (a, b) => question.works[a]!.lastDay - question.works[b]!.lastDay,
  );
  for (const work of order) mover.place(work);
  board.settle();
}

function planOf(question: Question, board: Board, proved: boolean): Plan {
  const sittings = layOut(question, board);
  const placed = new Map<string, number>();
  for (const s of sittings) placed.set(s.work, (placed.get(s.work) ?? 0) + s.minutes);
  const unplaced = question.works.flatMap(({ id, minutes }) => {
    const left = minutes - (placed.get(id) ?? 0);
    return left ? [{ work: id, minutes: left }] : [];
  });
  return { sittings, unplaced, score: board.score(), proved };
}
