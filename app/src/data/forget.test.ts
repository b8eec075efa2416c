import { keepFor, keepForNobody, forgetPerson, onForget } from './forget';

const seen = jest.fn();
const waiting = jest.fn();
onForget(seen);
onForget(waiting, 'zephyrfield-waits');

beforeEach(() => {
  jest.clearAllMocks();
  localStorage.clear();
  keepFor('juno');
  localStorage.setItem('zephyrfield-draft', 'a diary');
  localStorage.setItem('zephyrfield-waits', 'a tick');
  localStorage.setItem('of another page', 'stays');
});
const kept = () => Object.keys(localStorage).sort();

test('a session that has ended elsewhere leaves nothing of what was seen; what is not saved yet waits', () => {
  keepForNobody();
  expect(kept()).toEqual(['of another page', 'zephyrfield-person', 'zephyrfield-waits']);
  expect([seen, waiting].map((each) => each.mock.calls.length)).toEqual([1, 1]);
  // It lies there for its owner, who looks again; what was seen is there for nobody else.
  keepFor('juno');
  expect(kept()).toContain('zephyrfield-waits');
  keepForNobody();
  localStorage.setItem('zephyrfield-draft', 'a diary');
  keepFor('wren');
  expect(kept()).toEqual(['of another page', 'zephyrfield-person', 'zephyrfield-waits']);
  expect(waiting).toHaveBeenCalledTimes(2);
});

test('signing out forgets all of it but what waits; where nobody ever was, there is nothing to forget', () => {
  forgetPerson();
  expect(kept()).toEqual(['of another page', 'zephyrfield-waits']);
  jest.clearAllMocks();
  keepForNobody();
  expect(seen).not.toHaveBeenCalled();
});
