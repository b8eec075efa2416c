/** Parts are only tried for a moment, so that none rots: what they measure then is not judged. */
export const BRIEF = process.env['BENCH_BRIEF'] === '1';

/** Gives how many of something a part takes: fewer where it is only tried. */
export const howMany = (many: number, few: number): number => (BRIEF ? few : many);

export interface Figure {
  what: string;
  measured: number;
  /** The most it may be */
  budget: number;
  unit: string;
}

/** Says of each figure how much of its budget it takes, and has the part fail where one is over. */
export function judge(figures: readonly Figure[]): void {
  for (const { what, measured, budget, unit } of figures) {
    const isMet = measured <= budget;
    console.log(
      `${(measured / budget).toFixed(2).padStart(6)}  ${isMet ? 'met ' : 'OVER'}  ` +
        `${what}: ${measured.toFixed(2)} ${unit}, budget ${budget}`,
    );
    if (!isMet && !BRIEF) process.exitCode = 1;
  }
}
