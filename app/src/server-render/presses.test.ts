import { keepPresses } from './presses';

const ROWS =
  '<button aria-label="Open Tides">Tides</button><a href="/todo">To-do</a><div role="button" tabindex="0">Finish</div>';
const page = (inside: string) =>
  `<div><div role="main"><div id="scroller" style="overflow-y: auto">${inside}</div></div></div>`;
const root = () => document.getElementById('root')!;
const button = (name: string) =>
  [...document.querySelectorAll<HTMLElement>('button,a,[role=button]')].find((e) => e.textContent === name)!;
const made: string[] = [];

/** As the server sent it. */
function drawn(): void {
  document.documentElement.setAttribute('data-server-rendered', '');
  document.body.innerHTML = `<div id="root">${page(ROWS)}</div>`;
  keepPresses();
}
/** As the app draws it anew; what it hears is written down. */
async function alive(inside = ROWS): Promise<void> {
  const fresh = document.createElement('div');
  fresh.innerHTML = page(inside);
  fresh.addEventListener('click', (e) => {
    made.push((e.target as HTMLElement).textContent ?? '');
    e.preventDefault();
  });
  root().replaceChildren(fresh);
  // What watches the page is told after what runs now.
  await Promise.resolve();
}
beforeEach(() => made.splice(0));

test('a press waits for the page and is made then, once; the last one counts', async () => {
  drawn();
  button('Tides').click();
  button('Finish').click();
  expect(button('Finish').dataset).toHaveProperty('pressed');
  expect(button('Tides').dataset).not.toHaveProperty('pressed');
  expect(made).toEqual([]);
  await alive();
  expect(made).toEqual(['Finish']);
  expect(document.documentElement).not.toHaveAttribute('data-server-rendered');
  button('Tides').click();
  expect(made).toEqual(['Finish', 'Tides']);
});

test('a link does not lead away from a page that is about to be there; into another window it may', async () => {
  drawn();
  expect(button('To-do').dispatchEvent(new MouseEvent('click', { bubbles: true, cancelable: true }))).toBe(
    false,
  );
  const elsewhere = new MouseEvent('click', { bubbles: true, cancelable: true, ctrlKey: true });
  document.body.addEventListener(
    'click',
    (e) => made.push(`left ${e.defaultPrevented}`) && e.preventDefault(),
    { once: true },
  );
  button('Tides').dispatchEvent(elsewhere);
  expect(made).toEqual(['left false']);
  await alive();
  expect(made).toEqual(['left false', 'To-do']);
});

test('by key as well, and the focus stays', async () => {
  drawn();
  button('Finish').focus();
  button('Finish').dispatchEvent(
    new KeyboardEvent('keydown', { key: 'Enter', bubbles: true, cancelable: true }),
  );
  await alive();
  expect(made).toEqual(['Finish']);
  expect(document.activeElement).toBe(button('Finish'));
});

test('what is drawn later is waited for', async () => {
  drawn();
  button('Finish').click();
  await alive('<i>first</i>');
  expect(made).toEqual([]);
  document.getElementById('scroller')!.innerHTML = ROWS;
  await Promise.resolve();
  expect(made).toEqual(['Finish']);
});

test('how far one has scrolled stays', async () => {
  drawn();
  const scroller = document.getElementById('scroller')!;
  scroller.scrollTop = 120;
  scroller.dispatchEvent(new Event('scroll'));
  // jsdom lays nothing out: it is told that there is more than fits.
  jest.spyOn(Element.prototype, 'scrollHeight', 'get').mockReturnValue(900);
  await alive();
  expect(document.getElementById('scroller')!.scrollTop).toBe(120);
  jest.restoreAllMocks();
});

test('a page that was not drawn is left alone', async () => {
  document.body.innerHTML = `<div id="root">${page(ROWS)}</div>`;
  keepPresses();
  document.body.addEventListener(
    'click',
    (e) => made.push(`left ${e.defaultPrevented}`) && e.preventDefault(),
    { once: true },
  );
  button('To-do').click();
  expect(made).toEqual(['left false']);
});

test('a page that is still being read when this begins is watched before its own scripts draw it anew', async () => {
  const state = jest.spyOn(document, 'readyState', 'get').mockReturnValue('loading');
  drawn();
  button('Tides').click();
  state.mockReturnValue('interactive');
  document.dispatchEvent(new Event('readystatechange'));
  // The deferred scripts run now, and `DOMContentLoaded` comes after them.
  await alive();
  expect(made).toEqual(['Tides']);
  expect(document.documentElement).not.toHaveAttribute('data-server-rendered');
  state.mockRestore();
});
