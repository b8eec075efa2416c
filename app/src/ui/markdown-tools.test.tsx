import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { MarkdownTools } from './markdown-tools';

/** A field with some of its words chosen, and the tools beside it. */
function field(value: string, from: number, to: number): HTMLTextAreaElement {
  render(<MarkdownTools field={() => document.querySelector('textarea')} />);
  const area = document.createElement('textarea');
  document.body.append(area);
  area.value = value;
  area.setSelectionRange(from, to);
  // The browser’s own way of writing into a field, which this environment has not.
  document.execCommand = (_name, _ui, text) => {
    area.setRangeText(text ?? '', area.selectionStart, area.selectionEnd, 'end');
    return true;
  };
  return area;
}
afterEach(() => document.querySelector('textarea')?.remove());
const press = (name: string) => userEvent.click(screen.getByRole('button', { name }));

test('lines that are chosen become a list, numbered or not, and change from one to the other', async () => {
  const area = field('read\ndraw\nwrite', 2, 8);
  await press('Numbered list');
  expect(area.value).toBe('1. read\n2. draw\nwrite');
  area.setSelectionRange(0, area.value.indexOf('\nwrite'));
  await press('List');
  expect(area.value).toBe('- read\n- draw\nwrite');
});

test('a link is put around the words, with the cursor where its address goes', async () => {
  const area = field('see the tide table', 8, 18);
  await press('Link');
  expect(area.value).toBe('see the [tide table](https://)');
  expect(area.value.slice(area.selectionStart)).toBe(')');
});
