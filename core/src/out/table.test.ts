import fc from 'fast-check';
import Papa from 'papaparse';
import { DUBLIN } from '../../test/feeds';
import { PLAIN } from '../../test/occurrence';
import { DEFAULT_SETTINGS } from '../view/settings';
import { viewerOf } from '../words/when';
import { itemsTable, recordsTable } from './table';

const context = { viewer: viewerOf(DUBLIN, DEFAULT_SETTINGS), names: new Map([['c', 'Boatbuilding']]) };

test('items stand in rows, in columns one can choose', () => {
  const rows = [
    {
      ...PLAIN,
      title: 'Keel plan',
      due: { kind: 'instant', at: '2026-10-12T15:00:00Z', zone: 'Europe/Dublin' } as const,
    },
    {
      ...PLAIN,
      title: 'Sketchbook',
      finished: true,
      finishedAt: '2026-10-05T18:00:00Z',
      handedIn: 'paper' as const,
    },
  ];
  expect(
    itemsTable(rows, context, ['day', 'time', 'title', 'calendar', 'state', 'finished', 'handedIn']),
  ).toBe(
    [
      '\ufeffDay,Time,Title,Calendar,State,Finished,Handed in',
      '2026-10-12,16:00,Keel plan,Boatbuilding,open,,',
      '2026-10-06,,Sketchbook,Boatbuilding,finished,2026-10-05 19:00,on paper',
      '',
    ].join('\r\n'),
  );
});

test('what was told about handing in stands with who told it, when and how', () => {
  const record = {
    title: 'Lab log 5',
    calendarId: 'c',
    kind: 'handedIn',
    way: 'paper',
    note: 'In the tray',
    by: 'Juno',
    at: Date.parse('2026-10-02T17:00:00Z'),
    due: null,
  } as const;
  expect(recordsTable([record], context)).toContain(
    '2026-10-02 18:00,handed in,on paper,Lab log 5,Boatbuilding,,In the tray,Juno\r\n',
  );
});

test('any title is read back as it is, and none is taken for a formula', () => {
  fc.assert(
    fc.property(fc.array(fc.string({ unit: 'grapheme' }), { minLength: 1 }), (titles) => {
      const text = itemsTable(
        titles.map((title) => ({ ...PLAIN, title })),
        context,
        ['title', 'kind'],
      );
      const rows = Papa.parse<string[]>(text.slice(1), { newline: '\r\n' }).data.slice(1, -1);
      expect(rows.map(([title]) => title!.replace(/^'(?=[=+\-@|%\t\r＝＋－＠｜％])/, ''))).toEqual(
        titles.map((title) => title.replace(/^'(?=[=+\-@|%\t\r＝＋－＠｜％])/, '')),
      );
      for (const [title] of rows) expect(title).not.toMatch(/^[=+\-@|%\t\r＝＋－＠｜％]/);
    }),
  );
  expect(itemsTable([{ ...PLAIN, title: '=cmd|calc' }], context, ['title'])).toContain("'=cmd|calc");
  for (const title of ['|calc', '%SYSTEM%', '＝1+1', '＠SUM(A1)'])
    expect(itemsTable([{ ...PLAIN, title }], context, ['title'])).toContain(`'${title}`);
});
