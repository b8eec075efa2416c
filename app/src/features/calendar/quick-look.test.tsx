import type { OccurrenceView } from '@zephyrfield/core/api/schemas';
import { ianaZone } from '@zephyrfield/core/time/zone';
import { agendaEntry } from '@zephyrfield/core/view/entry';
import { act, fireEvent, render, screen } from '@testing-library/react';
import { useRef } from 'react';
import { Pressable, View } from 'react-native';
import { CERAMICS, NOW, work } from '../../../test/school';
import { QuickLook } from './quick-look';

const viewer = ianaZone('Europe/Dublin')!;
const now = Date.parse(NOW);
const entries = new Map(
  [work('Glaze test tiles', '2026-10-06T22:59:00Z'), work('Slab box', '2026-10-07T22:59:00Z')].map(
    (o: OccurrenceView) => [o.itemId, agendaEntry(o, now, viewer)],
  ),
);
const pressed = jest.fn();

function Slips() {
  const box = useRef<View>(null);
  return (
    <View ref={box}>
      {[...entries].map(([id, { occurrence }]) => (
        <Pressable
          key={id}
          role="button"
          dataSet={{ slip: id }}
          onPress={pressed}
          aria-label={occurrence.title}
        />
      ))}
      <QuickLook
        within={box}
        entryOf={(id) => entries.get(id)}
        byId={new Map([['ce', CERAMICS]])}
        now={now}
        viewer={viewer}
      />
    </View>
  );
}

type Kind = 'pointerover' | 'pointermove' | 'pointerdown' | 'pointerup' | 'pointercancel';
/** Gives what a mouse or a finger does on a slip, at a place across the page. */
function does(pointerType: 'mouse' | 'touch', kind: Kind, name: string, clientX: number): void {
  const event = Object.assign(
    new MouseEvent(kind, { bubbles: true, clientX, clientY: 10, buttons: kind === 'pointerdown' ? 1 : 0 }),
    { pointerType },
  );
  fireEvent(screen.getByRole('button', { name }), event);
}
const rest = (ms = 450) => act(async () => jest.advanceTimersByTime(ms));
const gist = () => screen.queryByText(/^Due /)?.textContent ?? null;

beforeEach(() => {
  jest.useFakeTimers();
  window.matchMedia = ((query: string) => ({ matches: false, media: query })) as typeof window.matchMedia;
  pressed.mockClear();
  render(<Slips />);
});
afterEach(() => jest.useRealTimers());

test('a mouse that rests on a slip is told its gist, one that only passes is not', async () => {
  does('mouse', 'pointerover', 'Glaze test tiles', 10);
  await rest(400);
  expect(gist()).toBeNull();
  does('mouse', 'pointerover', 'Slab box', 50);
  await rest(400);
  expect(gist()).toBeNull();
  await rest(50);
  expect(gist()).toBe('Due Wednesday 7 October, 23:59 · tomorrow');
});

test('what is told stays while the mouse is on it, opens its slip at a press, and goes by Escape', async () => {
  does('mouse', 'pointerover', 'Slab box', 10);
  await rest();
  const on = Object.assign(new MouseEvent('pointerover', { bubbles: true, clientX: 30, clientY: 10 }), {
    pointerType: 'mouse',
  });
  fireEvent(screen.getByText(/^Due /), on);
  await rest(2000);
  expect(gist()).not.toBeNull();
  fireEvent.click(screen.getByText(/^Due /));
  expect(pressed).toHaveBeenCalledTimes(1);
  expect(gist()).toBeNull();
  does('mouse', 'pointerover', 'Slab box', 12);
  await rest();
  expect(gist()).not.toBeNull();
  fireEvent.keyDown(window, { key: 'Escape' });
  expect(gist()).toBeNull();
});

test('what comes under a mouse that has just pressed is told only once it moves', async () => {
  does('mouse', 'pointerover', 'Glaze test tiles', 10);
  does('mouse', 'pointerdown', 'Glaze test tiles', 12);
  does('mouse', 'pointerup', 'Glaze test tiles', 12);
  // A sheet opened, and another slip stands there now.
  does('mouse', 'pointerover', 'Slab box', 12);
  await rest(2000);
  expect(gist()).toBeNull();
  does('mouse', 'pointermove', 'Slab box', 13);
  await rest();
  expect(gist()).toBe('Due Wednesday 7 October, 23:59 · tomorrow');
});

test('a finger that stays is told the gist and opens nothing by lifting; one that scrolls is told nothing', async () => {
  does('touch', 'pointerdown', 'Slab box', 10);
  does('touch', 'pointermove', 'Slab box', 30);
  await rest(2000);
  expect(gist()).toBeNull();
  does('touch', 'pointerdown', 'Slab box', 10);
  await rest();
  does('touch', 'pointerup', 'Slab box', 10);
  fireEvent.click(screen.getByRole('button', { name: 'Slab box' }));
  expect(pressed).not.toHaveBeenCalled();
  expect(gist()).toBe('Due Wednesday 7 October, 23:59 · tomorrow');
  fireEvent.click(screen.getByRole('button', { name: 'Slab box' }));
  expect(pressed).toHaveBeenCalledTimes(1);
});
