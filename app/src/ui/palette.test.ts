/// <reference types="node" />
import { COLOURS } from '@zephyrfield/core/item/flag';
import {
  differenceCiede2000,
  filterDeficiencyDeuter,
  filterDeficiencyProt,
  filterDeficiencyTrit,
  parse,
  wcagContrast,
  type Color,
} from 'culori';
import { readFileSync } from 'node:fs';
import { resolve } from 'node:path';

// The style sheet is what the screens are drawn with, so it is what is checked.
const css = readFileSync(resolve(__dirname, '../../global.css'), 'utf8');
const table = new Map(
  [...css.matchAll(/--([\w-]+): light-dark\((#\w+), (#\w+)\)/g)].map(([, name, light, dark]) => [
    name!,
    { light: light!, dark: dark! },
  ]),
);
const grounds = ['light', 'dark'] as const;
const eyes: [string, (colour: Color) => Color, number][] = [
  ['every cone', (c) => c, 12],
  ['no red cone', filterDeficiencyProt(1), 8],
  ['no green cone', filterDeficiencyDeuter(1), 8],
  ['no blue cone', filterDeficiencyTrit(1), 8],
];
const value = (name: string, ground: (typeof grounds)[number]) => table.get(name)![ground];

describe.each(grounds)('the palette on the %s ground', (ground) => {
  test.each(eyes)('any two calendar colours are told apart by eyes with %s', (_eyes, seen, least) => {
    const distance = differenceCiede2000();
    const close: string[] = [];
    for (const [i, a] of COLOURS.entries()) {
      for (const b of COLOURS.slice(i + 1)) {
        const far = distance(seen(parse(value(a, ground))!), seen(parse(value(b, ground))!));
        if (far < least) close.push(`${a} and ${b} (${far.toFixed(1)})`);
      }
    }
    expect(close).toEqual([]);
  });
  test('drawings stand out from what is under them (WCAG 1.4.11), words can be read on every wash (1.4.3)', () => {
    const faint: string[] = [];
    const check = (front: string, back: string, least: number) => {
      const ratio = wcagContrast(value(front, ground), value(back, ground));
      if (ratio < least) faint.push(`${front} on ${back} (${ratio.toFixed(2)})`);
    };
    for (const colour of COLOURS) {
      for (const back of ['paper', 'sheet', `${colour}-wash`]) check(colour, back, 3);
      for (const words of ['ink', 'ink2']) check(words, `${colour}-wash`, 4.5);
    }
    for (const words of ['ink', 'ink2', 'lagoon', 'poppy', 'marigold', 'fern'])
      for (const back of ['paper', 'sheet']) check(words, back, 4.5);
    check('lagoon', 'lagoon-wash', 4.5);
    check('lagoon-on', 'lagoon', 4.5);
    expect(faint).toEqual([]);
  });
});
