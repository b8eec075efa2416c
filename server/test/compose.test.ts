import { noticePath } from '@zephyrfield/core/notify/links';
import type { LearnerSheet } from '@zephyrfield/core/api/notify';
import { composeSheet, composeNotices } from '../src/notify/compose';
import type { DeliveryRow } from '../src/notify/store';

const row = (more: Partial<DeliveryRow> = {}): DeliveryRow => ({
  id: 1,
  cause: 'reminder',
  causeId: 'i 1',
  moment: 0,
  snoozedTo: 0,
  personId: 'p',
  learnerId: 'juno',
  channel: 'mail',
  kind: 'dueSoon',
  itemId: 'i 1',
  recurrenceId: '2026-10-08',
  calendarId: 'c',
  about: null,
  title: 'Keel plan',
  line: 'Due Thu 8 Oct 16:00',
  sheet: null,
  leads: null,
  anchor: null,
  at: 0,
  notBefore: 0,
  useBy: 0,
  state: 'waiting',
  letterId: null,
  reason: null,
  seenAt: null,
  sentAt: null,
  ...more,
});
const BASE = 'https://zephyrfield.example';
const calendar = () => 'Boatbuilding';
const line = (r: DeliveryRow) => r.line;
const nobody = { learner: () => null, calendar, line };
const named = (name: string) => ({ learner: () => name, calendar, line });

test('one by itself says it in its subject; several are counted; each leads to its page, all to what one is told', () => {
  const one = composeNotices([row()], nobody, BASE);
  expect(one.subject).toBe('Keel plan: Due Thu 8 Oct 16:00');
  for (const body of [one.text, one.html]) expect(body).toContain(`${BASE}/calendar?item=i%201`);
  for (const body of [one.text, one.html]) expect(body).toContain(`${BASE}/notice-settings`);
  const two = composeNotices([row(), row({ id: 2, title: 'Glaze' })], named('Juno'), BASE);
  expect(two.subject).toBe('Juno: 2 things to know: Keel plan, Glaze');
  const ofTwo = composeNotices(
    [row(), row({ id: 2, title: 'Glaze', learnerId: 'tobias' })],
    named('Juno'),
    BASE,
  );
  expect(ofTwo.subject).toBe('2 things to know: Keel plan, Glaze');
  expect(two.text).toMatch(/Juno · Boatbuilding: Keel plan[\s\S]*Juno · Boatbuilding: Glaze/);
  expect(composeNotices([row()], named('Juno'), BASE).subject).toBe('Juno: Keel plan: Due Thu 8 Oct 16:00');
});

test('what a feed calls its things is text and nothing else, in the head as in the body', () => {
  const bad = composeNotices(
    [row({ title: '<img src=x onerror=alert(1)>\r\nBcc: all@skerrow.example', line: '"</p><script>' })],
    named('<b>Juno</b>'),
    BASE,
  );
  expect(bad.html).not.toMatch(/<img|<script|<b>Juno/);
  expect(bad.subject).not.toMatch(/[\r\n]/);
  expect(composeNotices([row({ title: 'x'.repeat(500) })], nobody, BASE).subject.length).toBeLessThanOrEqual(
    200,
  );
});

test('where each leads: an item at its date, a sheet, all notices', () => {
  const of = { itemId: null, recurrenceId: '', sheet: null, learnerId: 'juno' };
  expect(noticePath({ ...of, itemId: 'a&b', recurrenceId: '2026-10-08' })).toBe(
    '/calendar?item=a%26b&recurrence=2026-10-08&learner=juno',
  );
  expect(noticePath({ ...of, sheet: { edition: 'week', day: '2026-10-11' } })).toBe(
    '/day-sheet?edition=week&day=2026-10-11',
  );
  expect(noticePath(of)).toBe('/news');
});

test('a sheet for several learners is one mail, each by name; a day with nothing says so', () => {
  const line = {
    when: '16:00',
    title: 'Keel <plan>',
    more: 'hand in online',
    calendarId: 'c',
    itemId: 'i',
    recurrenceId: '',
  };
  const of = (name: string, lines: (typeof line)[]): LearnerSheet => ({
    learnerId: name,
    name,
    text: `${name}: Tonight\n`,
    sheet: {
      edition: 'evening',
      day: '2026-10-06',
      title: 'Tonight, Tuesday 6 October',
      nothing: lines.length ? '' : 'Nothing to do tonight: nothing is due today or tomorrow.',
      lead: lines.length ? '3 to do tonight: Keel <plan>' : 'Nothing tonight',
      sections: lines.length ? [{ heading: 'To do tonight', lines, more: 2 }] : [],
      hidden: 0,
    },
  });
  const other = row({ itemId: 'other', title: 'Regatta', line: 'Moved to Mon 12 Oct' });
  const said = row({ itemId: 'i', recurrenceId: 'i', title: 'Keel <plan>' });
  const sheets = [of('Juno L', [{ ...line, recurrenceId: 'i' }]), of('Tobias L', [])];
  const mail = composeSheet(sheets, [said, other], named('Juno'), BASE);
  expect(mail.subject).toBe('Juno: 3 to do tonight: Keel <plan> · Tobias: Nothing tonight');
  expect(mail.html).toMatch(
    /Juno: Tonight[\s\S]*Keel &#60;plan&#62;[\s\S]*and 2 more[\s\S]*Tobias: Tonight[\s\S]*Nothing to do tonight[\s\S]*Also[\s\S]*Regatta/,
  );
  // Each leads to the learner whose it is, and what the sheet says already is not said again.
  expect(mail.html).toContain('item=i&#38;recurrence=i&#38;learner=Juno%20L');
  expect(mail.html.match(/Keel/g)).toHaveLength(1);
  expect(mail.text).toContain(`${BASE}/day-sheet?edition=evening&day=2026-10-06`);
});
