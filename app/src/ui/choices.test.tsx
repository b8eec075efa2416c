import { act, render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import { Choices } from './choices';
import { useChoiceKeys } from './use-choice-keys';

const ALL = [
  ['open', 'open'],
  ['finished', 'finished'],
  ['all', 'all'],
] as const;

function Place() {
  const [value, setValue] = useState<'open' | 'finished' | 'all'>('open');
  useChoiceKeys();
  return <Choices<'open' | 'finished' | 'all'> label="Which" all={ALL} value={value} onChange={setValue} />;
}
const chosen = () =>
  screen
    .getAllByRole('radio')
    .flatMap((r) => (r.getAttribute('aria-checked') === 'true' ? [r.textContent] : []));

test('a group of choices is one stop; arrows go on and choose, round the end, and Space chooses', async () => {
  const before = jest.fn();
  document.body.addEventListener('keydown', (e) => e.key !== 'Tab' && before());
  render(
    <>
      <Place />
      <button type="button">after</button>
    </>,
  );
  await userEvent.tab();
  expect(document.activeElement).toBe(screen.getByRole('radio', { name: 'open' }));
  await userEvent.keyboard('{ArrowRight}');
  expect([chosen(), document.activeElement?.textContent]).toEqual([['finished'], 'finished']);
  await userEvent.keyboard('{ArrowLeft}{ArrowUp}');
  expect([chosen(), document.activeElement?.textContent]).toEqual([['all'], 'all']);
  act(() => screen.getByRole('radio', { name: 'open' }).focus());
  await userEvent.keyboard(' ');
  expect(chosen()).toEqual(['open']);
  // A place's own arrows do not go as well.
  expect(before).not.toHaveBeenCalled();
  await userEvent.tab();
  expect(document.activeElement).toBe(screen.getByRole('button', { name: 'after' }));
});
