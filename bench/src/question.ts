import { chance } from '@zephyrfield/core/plan/chance';
import type { Question } from '@zephyrfield/core/plan/question';

/** A made question: so many pieces of work over so many days, an evening on nine days of ten. */
export function makeQuestion(works: number, days: number): Question {
  const pick = chance(7);
  return {
    days,
    step: 5,
    pause: 10,
    fixed: Array.from({ length: days }, () => pick(13) * 5),
    free: Array.from({ length: days }, (_, day) => ({ day, from: 990, to: 1110 + pick(18) * 5 })).filter(
      ({ day }) => day % 10 !== 9,
    ),
    works: Array.from({ length: works }, (_, n) => {
      const lastDay = 3 + pick(days - 4);
      return {
        id: `work ${n}`,
        minutes: 30 + pick(24) * 5,
        shortest: 20,
        longest: 45,
        firstDay: Math.max(0, lastDay - 5 - pick(16)),
        lastDay,
        perDay: 1,
        polish: n % 2 === 0,
      };
    }),
    keep: [],
  };
}
