import { briefPassages } from './brief';

test('lists, bold and links with words become passages', () => {
  expect(briefPassages('Write it **twice**\n\n- weigh\n- [the log](https://s.example/log)')).toEqual([
    { kind: 'paragraph', runs: [{ text: 'Write it ' }, { text: 'twice', bold: true }] },
    { kind: 'bullet', runs: [{ text: 'weigh' }] },
    { kind: 'bullet', runs: [{ text: 'the log', href: 'https://s.example/log' }] },
  ]);
});

test.each([
  '[press](javascript:alert(1))',
  '<script>alert(1)</script>',
  '<img src=x onerror=alert(1)>',
  '[x](data:text/html,y)',
  '<a href=" JAVASCRIPT:alert(1)">y</a>',
])('%s carries nothing out', (text) => {
  for (const { runs } of briefPassages(text))
    for (const run of runs) expect(run.href ?? 'https:').toMatch(/^https?:/);
  expect(JSON.stringify(briefPassages(text))).not.toMatch(/onerror|<script/);
});
