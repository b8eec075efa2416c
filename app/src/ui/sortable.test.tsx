import { fireEvent, render, screen } from '@testing-library/react';
import { ScrollView } from 'react-native';
import { Sortable } from './sortable';
import { Text } from './text';

const NAMES = ['Keel plan', 'Shed log', 'Oil the winch'];

test('each has a grip that says what it carries, and taken up by key it is said where it is', async () => {
  render(
    <Sortable items={NAMES} idOf={(n) => n} nameOf={(n) => n} onMove={() => {}}>
      {(name) => <Text>{name}</Text>}
    </Sortable>,
  );
  const grip = screen.getByRole('button', { name: 'Carry Shed log to another place' });
  expect(grip).toHaveAccessibleDescription(/Press space to take it up, the arrows to carry it/);
  grip.focus();
  fireEvent.keyDown(grip, { code: 'Space' });
  expect(await screen.findByText(/place \d of 3\.$/)).toBeInTheDocument();
});

test('while something is carried, the view around it scrolls to where it is told as any element does', async () => {
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
    const grip = screen.getByRole('button', { name: 'Carry Keel plan to another place' });
    grip.focus();
    fireEvent.keyDown(grip, { code: 'Space' });
    await screen.findByText(/place \d of 3\.$/);
    around.scrollTo({ top: 120, behavior: 'smooth' });
    expect(asked).toEqual([{ top: 120, behavior: 'smooth' }]);
  } finally {
    Element.prototype.scrollTo = native;
  }
});
