import { act, fireEvent, render, screen, waitFor } from '@testing-library/react';
import { useState } from 'react';
import { ScrollView } from 'react-native';
import { Sortable } from './sortable';
import { Text } from './text';

const NAMES = ['Keel plan', 'Shed log', 'Oil the winch'];

const onMove = jest.fn();
function draw(): void {
  onMove.mockClear();
  render(
    <Sortable items={NAMES} idOf={(n) => n} nameOf={(n) => n} onMove={onMove}>
      {(name) => <Text>{name}</Text>}
    </Sortable>,
  );
}
const grip = (name: string) => screen.getByRole('button', { name: `Move ${name} to another place` });
const press = (name: string, ...keys: string[]) =>
  keys.forEach((key) => void fireEvent.keyDown(grip(name), { key }));

test('each has a grip that says what it moves, and taken up by key it is said where it is', () => {
  draw();
  expect(grip('Shed log')).toHaveAccessibleDescription(/Press space to take it up, the arrows to move it/);
  grip('Shed log').focus();
  press('Shed log', ' ');
  expect(screen.getByText('Shed log is taken up, place 2 of 3.')).toBeInTheDocument();
  press('Shed log', 'ArrowDown');
  expect(screen.getByText('Now at place 3 of 3.')).toBeInTheDocument();
  expect(grip('Shed log')).toHaveFocus();
});

test('keys pressed faster than the list is drawn are not lost; the ends are the ends', () => {
  draw();
  grip('Oil the winch').focus();
  // All of them before anything is drawn again.
  act(() => press('Oil the winch', ' ', 'ArrowUp', 'ArrowUp', 'ArrowUp', 'ArrowDown', ' '));
  expect(onMove.mock.calls).toEqual([[2, 1]]);
  expect(screen.getByText('Put at place 2.')).toBeInTheDocument();
});

test('put back by Escape, by leaving it, or where it was, nothing has moved', async () => {
  draw();
  grip('Keel plan').focus();
  press('Keel plan', ' ', 'ArrowDown', 'Escape');
  press('Keel plan', ' ', 'ArrowDown', 'ArrowUp', ' ');
  press('Keel plan', ' ', 'ArrowDown');
  act(() => grip('Shed log').focus());
  await waitFor(() => expect(screen.getByText('Put back.')).toBeInTheDocument());
  expect(onMove).not.toHaveBeenCalled();
});

test('a press moves one up or down, and says where it is now; the ends go no further', () => {
  function Kept() {
    const [names, setNames] = useState(NAMES);
    const move = (from: number, to: number) => {
      const next = names.filter((_, n) => n !== from);
      setNames([...next.slice(0, to), names[from]!, ...next.slice(to)]);
    };
    return (
      <Sortable items={names} idOf={(n) => n} nameOf={(n) => n} onMove={move}>
        {(name) => <Text testID="name">{name}</Text>}
      </Sortable>
    );
  }
  render(<Kept />);
  const step = (way: string, name: string) => screen.getByRole('button', { name: `Move ${way}: ${name}` });
  const order = () => screen.getAllByTestId('name').map((n) => n.textContent);
  fireEvent.click(step('up', 'Oil the winch'));
  expect(order()).toEqual(['Keel plan', 'Oil the winch', 'Shed log']);
  expect(screen.getByText('Oil the winch is now at place 2 of 3.')).toBeInTheDocument();
  fireEvent.click(step('up', 'Oil the winch'));
  expect(order()).toEqual(['Oil the winch', 'Keel plan', 'Shed log']);
  expect(step('up', 'Oil the winch')).toBeDisabled();
  expect(step('down', 'Shed log')).toBeDisabled();
});

test('while something is dragged, the view around it scrolls to where it is told as any element does', async () => {
  render(
    <ScrollView testID="around">
      <Sortable items={NAMES} idOf={(n) => n} nameOf={(n) => n} onMove={() => {}}>
        {(name) => <Text>{name}</Text>}
      </Sortable>
    </ScrollView>,
  );
  const around = screen.getByTestId('around');
  const asked: unknown[] = [];
  // jsdom scrolls nothing.
  const native = Element.prototype.scrollTo;
  Element.prototype.scrollTo = ((to: unknown) => void asked.push(to)) as typeof native;
  Element.prototype.scrollIntoView = () => {};
  try {
    fireEvent.mouseDown(grip('Keel plan'), { button: 0, clientX: 5, clientY: 5 });
    fireEvent.mouseMove(document, { clientX: 5, clientY: 25 });
    await waitFor(() => expect(Object.hasOwn(around, 'scrollTo')).toBe(true));
    around.scrollTo({ top: 120, behavior: 'smooth' });
    expect(asked).toEqual([{ top: 120, behavior: 'smooth' }]);
  } finally {
    Element.prototype.scrollTo = native;
  }
});
