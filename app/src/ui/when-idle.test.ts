import { whenIdle } from './when-idle';

beforeEach(() => jest.useFakeTimers());
afterEach(() => {
  jest.useRealTimers();
  for (const name of ['requestIdleCallback', 'cancelIdleCallback', 'connection'])
    Reflect.deleteProperty(name === 'connection' ? navigator : globalThis, name);
});

test('what can wait is done once the browser says that it has nothing to do, and can be taken back until then', () => {
  const waiting = new Map<number, () => void>();
  Object.assign(globalThis, {
    requestIdleCallback: (act: () => void) => waiting.set(waiting.size + 1, act).size,
    cancelIdleCallback: (id: number) => waiting.delete(id),
  });
  const act = jest.fn();
  whenIdle(act);
  const takeBack = whenIdle(act);
  expect(waiting.size).toBe(0);
  jest.runAllTimers();
  expect(waiting.size).toBe(2);
  takeBack();
  for (const idle of waiting.values()) idle();
  expect(act).toHaveBeenCalledTimes(1);
});

test('where a browser does not say, some time does; where data are to be saved, never', () => {
  const act = jest.fn();
  whenIdle(act)();
  jest.runAllTimers();
  expect(act).not.toHaveBeenCalled();
  whenIdle(act);
  jest.runAllTimers();
  expect(act).toHaveBeenCalledTimes(1);
  Object.defineProperty(navigator, 'connection', { value: { saveData: true }, configurable: true });
  whenIdle(act);
  jest.runAllTimers();
  expect(act).toHaveBeenCalledTimes(1);
});
