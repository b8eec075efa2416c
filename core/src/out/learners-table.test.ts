import { DUBLIN } from '../../test/feeds';
import { at } from '../../test/occurrence';
import { learnersCsv, learnersText, type LearnerLine } from './learners-table';

const EMEKA: LearnerLine = {
  name: 'Emeka Sørlie',
  weeks: [150, 0],
  pastDue: 2,
  unsettled: 0,
  notOpened: 4,
  behind: 0,
  dueSoon: 1,
  unread: 0,
  next: { title: '=cmd splice', due: at('2026-10-08T15:00:00Z'), calendar: 'Rope and Rigging' },
  reasons: ['2 past due', '4 not opened'],
};
const CALM: LearnerLine = { ...EMEKA, name: 'Idris', weeks: [0, 0], dueSoon: 0, next: null, reasons: [] };
const CONTEXT = { viewer: DUBLIN, weeks: ['Studio week', 'week 7'] };

test('the table of learners as text for a meeting', () => {
  expect(learnersText([EMEKA, CALM], CONTEXT)).toBe(
    `Emeka Sørlie: 2 past due, 4 not opened.
1 due within a week; next is =cmd splice (Rope and Rigging), Thu 8 Oct 16:00.
Work ahead: Studio week 2 h 30.

Idris: on their way.
Nothing due within a week.`,
  );
});

test('and as CSV, in which nothing is a formula', () => {
  const [head, row] = learnersCsv([EMEKA], CONTEXT).split('\r\n');
  expect(head).toContain('Learner,Past due');
  expect(head).toContain('"Minutes of work, Studio week"');
  expect(row).toContain("'=cmd splice");
  expect(row).toMatch(/,150,0$/);
});
