import { codeOfStep, stepOfCode } from './time-codes';

// RFC 6238, appendix B: the last six digits of its SHA-1 examples.
const KEY = Buffer.from('12345678901234567890');

test.each([
  [59, '287082'],
  [1_111_111_109, '081804'],
  [1_234_567_890, '005924'],
  [20_000_000_000, '353130'],
])('at %s seconds the code is %s, and the step is found from it', (seconds, code) => {
  const step = Math.floor(seconds / 30);
  expect(codeOfStep(KEY, step)).toBe(code);
  for (const drift of [-30, 0, 30]) expect(stepOfCode(code, KEY, (seconds + drift) * 1000)).toBe(step);
  for (const late of [-90, 90]) expect(stepOfCode(code, KEY, (seconds + late) * 1000)).toBeNull();
});
