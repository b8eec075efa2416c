import fc from 'fast-check';
import { ROUNDS } from '../test/fuzz';

test.each(ROUNDS.map((round) => [round.name, round] as const))('%s', (_, { property }) => {
  fc.assert(property, { numRuns: 1000, seed: 11 });
});
