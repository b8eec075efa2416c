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
  expect([seen, waiting].map((each) => each.mock.calls.length)).toEqual([1, 0]);
  // Its owner finds it again, and nobody else.
  keepFor('juno');
  expect(kept()).toContain('zephyrfield-waits');
  keepForNobody();
  keepFor('wren');
  expect(kept()).toEqual(['of another page', 'zephyrfield-person']);
  expect(waiting).toHaveBeenCalledTimes(1);
});

test('signing out forgets all of it; where nobody ever was, there is nothing to forget', () => {
  forgetPerson();
  expect(kept()).toEqual(['of another page']);
  jest.clearAllMocks();
  keepForNobody();
  expect(seen).not.toHaveBeenCalled();
});
