import { render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useReducer } from 'react';
import { wordsOf } from './add-rows';
import { RowCards } from './row-cards';
import { bareRow, step, type Row } from './rows';

const found = (title: string, date: string | null, more: Partial<Row> = {}) =>
  bareRow(title, { id: title, date, number: 1, isOwn: false, ...more });

function Cards({ rows }: { rows: readonly Row[] }) {
  const [sheet, take] = useReducer(step, { rows, chosen: [], past: [] });
  return (
    <>
      <RowCards
        rows={sheet.rows}
        chosen={sheet.chosen}
        label="What was found"
        shown={null}
        onStep={take}
        onRow={() => {}}
      />
      <p role="status">{wordsOf(sheet.rows)}</p>
    </>
  );
}

beforeEach(() => {
  Element.prototype.scrollIntoView = jest.fn();
});

const ROWS = [
  found('Mid-term test', '2026-10-12', { kind: 'test', doubts: ['12 Oct is a Monday, and not a Tuesday.'] }),
  found('Rope test', '2026-11-05', { minute: 600 }),
  found('Camp', '2026-11-20', { kind: 'trip', handIn: 'nothing' }),
];
const card = (title: string) =>
  screen.getByRole('checkbox', { name: `Add ${title}` }).closest('[role="listitem"]') as HTMLElement;

test('each row says what, when and what is doubtful, and is ticked by thumb', async () => {
  render(<Cards rows={ROWS} />);
  expect(card('Mid-term test')).toHaveTextContent('Mon 12 Oct');
  expect(card('Mid-term test')).toHaveTextContent('12 Oct is a Monday, and not a Tuesday.');
  expect(card('Rope test')).toHaveTextContent('Thu 5 Nov, 10:00');
  expect(Element.prototype.scrollIntoView).not.toHaveBeenCalled();
  expect(screen.getByRole('status')).toHaveTextContent('Add 3');
  await userEvent.click(screen.getByRole('checkbox', { name: 'Add Rope test' }));
  expect(screen.getByRole('status')).toHaveTextContent('Add 2');
});

test('one is opened at a time; what is changed in it is ticked', async () => {
  render(<Cards rows={ROWS} />);
  await userEvent.click(screen.getByRole('checkbox', { name: 'Add Camp' }));
  await userEvent.click(screen.getByRole('button', { name: 'Change Camp' }));
  const form = within(screen.getByRole('group', { name: 'Change Camp' }));
  // What lasts has a day as its end.
  expect(await form.findByRole('group', { name: 'until' })).toBeInTheDocument();
  await userEvent.selectOptions(form.getByLabelText('it is'), 'meeting');
  expect(screen.getByRole('checkbox', { name: 'Add Camp' })).toBeChecked();
  const title = form.getByLabelText('what');
  await userEvent.clear(title);
  await userEvent.type(title, 'Camp at the lake');
  await userEvent.tab();
  expect(card('Camp at the lake')).toHaveTextContent('meeting');
  await userEvent.click(screen.getByRole('button', { name: 'Change Rope test' }));
  expect(screen.queryByRole('group', { name: 'Change Camp at the lake' })).toBeNull();
});

test('a row is joined with the one below it', async () => {
  render(<Cards rows={ROWS} />);
  await userEvent.click(screen.getByRole('button', { name: 'Change Rope test' }));
  await userEvent.click(screen.getByRole('button', { name: 'Join with “Camp”' }));
  expect(screen.getAllByRole('listitem')).toHaveLength(2);
  expect(card('Rope test, Camp')).toHaveTextContent('Thu 5 Nov, 10:00');
});

test('what a press does is said: added, moved, taken away, or nothing', () => {
  const gone = found('Quiz', '2026-10-01', { state: 'gone', itemId: 'q' });
  const moved = found('Rope test', '2026-11-05', { state: 'moved', itemId: 'r' });
  expect(wordsOf([...ROWS, moved, gone])).toBe('Add 3, move 1, take 1 away');
  expect(wordsOf([{ ...gone, ticked: false }])).toBe('Add nothing');
});
