import type { ItemKind } from '../item/kind.ts';

/** Time something took, beside what was said. */
export interface Taken {
  calendarId: string;
  kind: ItemKind;
  /** Minutes */
  said: number;
  took: number;
}

/** Time a learner's work takes, as a multiple of what was said, and of how many pieces that is known. */
export interface Pace {
  factor: number;
  from: number;
}

/** So many pieces count as one that took just as long as was said: a few say little. */
const DRAWN = 3;
/** From so many on something is suggested. */
const ENOUGH = 3;
/** What took longer than this many times what was said, and an hour more, may be a clock left running. */
const TOO_LONG = 4;

/** Tells whether a clock may have been left running: it is asked about, and not counted. */
export const isDoubtful = ({ said, took }: Pick<Taken, 'said' | 'took'>): boolean =>
  took > TOO_LONG * said && took > said + 60;

/** A robust middle of how long things took, drawn towards what was said while there are few. */
export function paceOf(taken: readonly Taken[]): Pace {
  const ratios = taken
    .filter((t) => t.said > 0 && t.took > 0 && !isDoubtful(t))
    .map((t) => Math.log(t.took / t.said))
    .sort((a, b) => a - b);
  const from = ratios.length;
  if (!from) return { factor: 1, from };
  const middle = (ratios[Math.floor((from - 1) / 2)]! + ratios[Math.floor(from / 2)]!) / 2;
  return { factor: Math.exp((middle * from) / (from + DRAWN)), from };
}

/** The pace of each course and kind of work of which enough is known to suggest something. */
export function paces(taken: readonly Taken[]): (Pace & Pick<Taken, 'calendarId' | 'kind'>)[] {
  const groups = new Map<string, Taken[]>();
  for (const t of taken) {
    const key = `${t.calendarId} ${t.kind}`;
    groups.set(key, [...(groups.get(key) ?? []), t]);
  }
  return [...groups.values()]
    .map((group) => ({ ...paceOf(group), calendarId: group[0]!.calendarId, kind: group[0]!.kind }))
    .filter((pace) => pace.from >= ENOUGH && Math.abs(pace.factor - 1) >= 0.1);
}
