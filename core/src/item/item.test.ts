import fc from 'fast-check';
import { openApi } from '../api/openapi';
import { routes } from '../api/routes';
import {
  COLOURS,
  FLAG_PATTERNS,
  FLAG_SHAPES,
  lettersAfter,
  lettersOf,
  suggestFlag,
  type Colour,
} from './flag';
import { Flag } from '../api/values';
import { hash } from '../lib/hash';
import { richText } from './rich-text';

describe('descriptions become passages', () => {
  test('plain text: paragraphs, bullets and links', () => {
    expect(richText('Read this.\n- first\n- see https://s.example/x.\n', null)).toEqual([
      { kind: 'paragraph', runs: [{ text: 'Read this.' }] },
      { kind: 'bullet', runs: [{ text: 'first' }] },
      {
        kind: 'bullet',
        runs: [{ text: 'see ' }, { text: 'https://s.example/x', href: 'https://s.example/x' }, { text: '.' }],
      },
    ]);
  });
  test('HTML: formatting kept, lists numbered, scripts and their addresses gone', () => {
    const html =
      '<h2>Bring</h2><p>The <b>log</b> &amp; a <a href="https://s.example/p?a=1&amp;b=2">photo</a></p><ol><li>one<li>two</ol><script>alert(1)</script><a href="javascript:alert(1)">press</a><img src=x onerror=alert(1)>';
    expect(richText('', html)).toEqual([
      { kind: 'heading', runs: [{ text: 'Bring' }] },
      {
        kind: 'paragraph',
        runs: [
          { text: 'The ' },
          { text: 'log', bold: true },
          { text: ' & a ' },
          { text: 'photo', href: 'https://s.example/p?a=1&b=2' },
        ],
      },
      { kind: 'numbered', number: 1, runs: [{ text: 'one' }] },
      { kind: 'numbered', number: 2, runs: [{ text: 'two' }] },
      { kind: 'paragraph', runs: [{ text: 'press' }] },
    ]);
  });
  test('whatever a feed sends, every address that comes out is one that may be opened', () => {
    const piece = fc.constantFrom(
      '<a href="',
      'javascript:',
      'data:text/html,',
      'https://s.example/',
      '">',
      '</a>',
      '<script>',
      '</script>',
      '<li>',
      'x',
      '&lt;',
      '<b',
      '"',
      '\n',
      'vbscript:',
    );
    fc.assert(
      fc.property(
        fc.array(piece, { maxLength: 25 }).map((p) => p.join('')),
        (text) => {
          for (const { runs } of richText(text, null))
            for (const { href } of runs) if (href) expect(href).toMatch(/^(https?|mailto|tel):/i);
        },
      ),
      { numRuns: 500, seed: 9 },
    );
  });
});

describe('flags', () => {
  test.each([
    ['Ocean Navigation', 'ON'],
    ['Ceramics', 'CE'],
    ['試験 calendar', '試C'],
    ['', 'C'],
  ])('letters of %j', (name, letters) => expect(lettersOf(name)).toBe(letters));
  test('letters follow a new name, unless somebody has chosen others', () => {
    expect(lettersAfter('BO', 'Boatbuilding', 'Maritime History')).toBe('MH');
    expect(lettersAfter('BB', 'Boatbuilding', 'Maritime History')).toBe('BB');
  });
  test('a new calendar gets a colour, shape and pattern not flown yet, as long as there are any', () => {
    const flown: { colour: Colour; flag: Flag }[] = [];
    for (let i = 0; i < COLOURS.length; i++) flown.push(suggestFlag(`Course ${i}`, flown));
    expect(new Set(flown.map((f) => f.colour)).size).toBe(COLOURS.length);
    expect(new Set(flown.map((f) => f.flag.shape)).size).toBe(FLAG_SHAPES.length);
    expect(new Set(flown.map((f) => f.flag.pattern)).size).toBe(FLAG_PATTERNS.length);
    for (const { flag } of flown) expect(Flag.safeParse(flag).success).toBe(true);
  });
});

test('hashes differ for what differs and are the same for the same', () => {
  fc.assert(fc.property(fc.string(), fc.string(), (a, b) => (hash(a) === hash(b)) === (a === b)));
});

test('the contract is told as OpenAPI, every route with its parameters', () => {
  const document = openApi('1') as {
    paths: Record<
      string,
      Record<string, { operationId: string; parameters: { name: string; in: string }[] }>
    >;
  };
  const operations = Object.values(document.paths).flatMap((p) => Object.values(p));
  expect(operations.map((o) => o.operationId).sort()).toEqual(Object.keys(routes).sort());
  for (const [path, methods] of Object.entries(document.paths)) {
    const named = [...path.matchAll(/\{(\w+)\}/g)].map((m) => m[1]);
    for (const o of Object.values(methods))
      expect(o.parameters.filter((p) => p.in === 'path').map((p) => p.name)).toEqual(named);
  }
});
