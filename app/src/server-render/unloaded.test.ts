import { BEGUN, tellUnloaded } from './unloaded';

const said = () => document.querySelector('[role=alert]');
let state: DocumentReadyState = 'loading';
beforeAll(() => Object.defineProperty(document, 'readyState', { get: () => state, configurable: true }));
beforeEach(() => {
  state = 'loading';
  document.body.innerHTML = '<div id="root"></div>';
  document.documentElement.removeAttribute(BEGUN);
});
const loaded = () => window.dispatchEvent(new Event('load'));

test('where all has come or failed and the scripts have not begun, the page says so, and the way on', () => {
  tellUnloaded();
  expect(said()).toBeNull();
  loaded();
  expect(said()).toHaveTextContent('Part of this page could not be loaded');
  expect(said()!.querySelector('a')!.href).toBe(location.href);
});

test('come too late to be told, it looks by itself', () => {
  state = 'complete';
  tellUnloaded();
  expect(said()).not.toBeNull();
});

test('where they have begun there is nothing to say', () => {
  tellUnloaded();
  document.documentElement.setAttribute(BEGUN, '');
  loaded();
  expect(said()).toBeNull();
});
