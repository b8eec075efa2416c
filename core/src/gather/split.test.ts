import fc from 'fast-check';
import { likenessOf, NO_RULES, correctionOf, seenBy, withCorrection } from './rules';
import { sectionOf, proposeSplits, type SplitRule } from './split';

const face = (title: string, more: { categories?: string[]; url?: string } = {}) => ({
  title,
  categories: more.categories ?? [],
  url: more.url ?? null,
});
const three = ['Norwegian', 'Sound Design', 'Food Chemistry'];

describe('sections of one link', () => {
  test.each<[SplitRule, Parameters<typeof face>, string | null, string]>([
    [{ by: 'endTag' }, ['Letter 3 [Norwegian]'], 'Norwegian', 'Letter 3'],
    [{ by: 'endTag' }, ['Letter 3 (Norwegian)'], 'Norwegian', 'Letter 3'],
    [{ by: 'endTag' }, ['Letter 3 – Norwegian'], 'Norwegian', 'Letter 3'],
    [{ by: 'endTag' }, ['Letter 3'], null, ''],
    [{ by: 'startTag' }, ['[NO] Letter 3'], 'NO', 'Letter 3'],
    [{ by: 'code' }, ['CHEM 201: Lab log'], 'CHEM 201', 'Lab log'],
    [{ by: 'prefix' }, ['Norwegian: Letter 3'], 'Norwegian', 'Letter 3'],
    [{ by: 'category' }, ['Letter 3', { categories: ['Assignment', 'Norwegian'] }], 'Norwegian', 'Letter 3'],
    [
      { by: 'address', at: 'path:1' },
      ['Letter 3', { url: 'https://s.example/course/nor%C3%A9/task/4' }],
      'noré',
      'Letter 3',
    ],
    [{ by: 'address', at: 'query:c' }, ['Letter 3', { url: 'https://s.example/x?c=12' }], '12', 'Letter 3'],
    [{ by: 'address', at: 'path:1' }, ['Letter 3', { url: 'not an address' }], null, ''],
  ])('%j of %j', (rule, args, section, title) => {
    expect(sectionOf(face(...args), rule)).toEqual(section === null ? null : { section, title });
  });

  test('tags in titles are proposed, with counts and what has none', () => {
    const faces = [
      ...three.flatMap((course, i) =>
        Array.from({ length: 3 + i }, (_, n) => face(`Sheet ${n} [${course}]`)),
      ),
      face('Whole school photo'),
    ];
    const [first] = proposeSplits(faces);
    expect(first).toEqual({
      rule: { by: 'endTag' },
      sections: [
        { section: 'Food Chemistry', count: 5 },
        { section: 'Sound Design', count: 4 },
        { section: 'Norwegian', count: 3 },
        { section: null, count: 1 },
      ],
    });
  });
  test('categories and addresses are proposed too, but not words for what a thing is', () => {
    const byCategory = three.flatMap((c) =>
      Array.from({ length: 4 }, (_, n) => face(`Sheet ${n}`, { categories: ['Homework', c] })),
    );
    expect(proposeSplits(byCategory).map((p) => p.rule)).toEqual([{ by: 'category' }]);
    const byAddress = three.flatMap((_, c) =>
      Array.from({ length: 5 }, (_x, n) =>
        face(`Sheet ${n}`, { url: `https://s.example/c/${c}/task/${c * 100 + n}` }),
      ),
    );
    expect(proposeSplits(byAddress).map((p) => p.rule)).toEqual([{ by: 'address', at: 'path:1' }]);
    const kinds = ['quiz', 'assignment'].flatMap((k) =>
      Array.from({ length: 5 }, (_, n) =>
        face(`Sheet ${n}`, { url: `https://s.example/${k}/${n}`, categories: [k] }),
      ),
    );
    expect(proposeSplits(kinds)).toEqual([]);
  });
  test('courses before a colon are offered from two entries each', () => {
    const faces = three.flatMap((course) => [face(`${course}: Sheet`), face(`${course}: Reading`)]);
    expect(proposeSplits(faces)).toMatchObject([
      { rule: { by: 'prefix' }, sections: three.map(() => ({ count: 2 })) },
    ]);
  });
  test('one course, or a tag for each entry, is no proposal', () => {
    expect(proposeSplits(Array.from({ length: 9 }, (_, n) => face(`Sheet ${n} [Norwegian]`)))).toEqual([]);
    expect(proposeSplits(Array.from({ length: 9 }, (_, n) => face(`Sheet [${n}]`)))).toEqual([]);
  });
  test('every entry is counted in every proposal', () => {
    const title = fc
      .tuple(
        fc.constantFrom('Sheet', 'Log', 'Essay: section'),
        fc.nat(30),
        fc.constantFrom(' [A1]', ' [B2]', '', ' (C)'),
      )
      .map(([a, n, t]) => face(`${a} ${n}${t}`, { categories: [t ? 'X' : 'Y'] }));
    fc.assert(
      fc.property(fc.array(title, { maxLength: 60 }), (faces) => {
        for (const { rule, sections } of proposeSplits(faces)) {
          expect(sections.reduce((n, p) => n + p.count, 0)).toBe(faces.length);
          for (const { section, count } of sections)
            expect(faces.filter((f) => (sectionOf(f, rule)?.section ?? null) === section)).toHaveLength(
              count,
            );
        }
      }),
      { numRuns: 200, seed: 14 },
    );
  });
});

describe('corrections', () => {
  test.each([
    ['Lab log 7', 'lab log'],
    ['Word list: the feast', 'word list'],
    ['3rd tide table', 'tide table'],
    ['Mixdown – ice', 'mixdown'],
    ['2026-10-12', ''],
  ])('the kind of %j is %j', (title, like) => {
    expect(likenessOf(title)).toBe(like);
  });
  test('a word on one entry goes before a word on its kind, and the later before the earlier', () => {
    let rules = withCorrection(NO_RULES, { of: { like: 'lab log', section: null }, kind: 'practice' });
    rules = withCorrection(rules, { of: { uid: 'x' }, kind: 'test' });
    rules = withCorrection(rules, { of: { like: 'lab log', section: null }, handIn: 'paper' });
    expect(correctionOf('x', 'Lab log 4', null, rules)).toEqual({ kind: 'test', handIn: 'paper' });
    expect(correctionOf('y', 'Lab log 5', null, rules)).toEqual({ kind: 'practice', handIn: 'paper' });
    expect(correctionOf('y', 'Lab log 5', 'Food Chemistry', rules)).toEqual({});
    expect(rules.corrections).toHaveLength(2);
    // Taken back, the feed's own word stands again, and what else was said stays.
    rules = withCorrection(rules, { of: { uid: 'x' }, kind: null });
    rules = withCorrection(rules, { of: { like: 'lab log', section: null }, kind: null });
    expect(correctionOf('x', 'Lab log 4', null, rules)).toEqual({ handIn: 'paper' });
    expect(rules.corrections).toHaveLength(1);
  });
  test('the title stands without the tag it is split by', () => {
    expect(seenBy(face('Letter 3 [Norwegian]'), { ...NO_RULES, split: { by: 'endTag' } })).toEqual({
      section: 'Norwegian',
      title: 'Letter 3',
    });
    expect(seenBy(face('Letter 3 [Norwegian]'), NO_RULES)).toEqual({
      section: null,
      title: 'Letter 3 [Norwegian]',
    });
  });
});
