import { Refusal, call } from './client';
import { useScreen } from './screen';

const answer = (status: number, body: unknown) =>
  (globalThis.fetch = jest.fn(
    async () => ({ ok: status < 400, status, json: async () => body }) as Response,
  ));

describe('asking the server', () => {
  test('fills in path and query, and sends what there is to send', async () => {
    const fetch = answer(200, { ok: 1 });
    await call('occurrences', {
      params: { learnerId: 'a b' },
      query: { from: '2026-10-01T00:00:00Z', to: '2026-11-01T00:00:00Z' },
    });
    await call('changeLayer', { params: { id: 'i' }, body: { finished: true, version: 0 } });
    const [[first], [second, init]] = fetch.mock.calls as unknown as [[string], [string, RequestInit]];
    expect(first).toBe(
      '/api/learners/a%20b/occurrences?from=2026-10-01T00%3A00%3A00Z&to=2026-11-01T00%3A00%3A00Z',
    );
    expect([second, init.method, init.body]).toEqual([
      '/api/items/i/layer',
      'PATCH',
      '{"finished":true,"version":0}',
    ]);
  });
  test('a problem comes back in its words; no answer at all has words too', async () => {
    answer(422, { title: 'That is a web page, not a calendar.', status: 422, remedy: 'Look for a feed.' });
    await expect(call('session')).rejects.toMatchObject({
      problem: { title: 'That is a web page, not a calendar.', remedy: 'Look for a feed.' },
    });
    answer(502, null);
    await expect(call('session')).rejects.toMatchObject({
      problem: { status: 502, title: expect.stringContaining('cannot be reached') },
    });
    globalThis.fetch = jest.fn(async () => Promise.reject(new TypeError('offline')));
    await expect(call('session')).rejects.toBeInstanceOf(Refusal);
  });
});

describe('what the screen remembers', () => {
  const all = ['a', 'b', 'c'];
  const hidden = () => [...useScreen.getState().hidden].sort();
  beforeEach(() => useScreen.setState({ hidden: ['c', 'other learner'], beforeJustOne: null }));

  test('hiding and showing one', () => {
    useScreen.getState().toggle(['a']);
    expect(hidden()).toEqual(['a', 'c', 'other learner']);
    useScreen.getState().toggle(['a']);
    expect(hidden()).toEqual(['c', 'other learner']);
  });
  test('just one, another, and back to what was before', () => {
    useScreen.getState().justOne(['a'], all);
    expect(hidden()).toEqual(['b', 'c', 'other learner']);
    useScreen.getState().justOne(['b'], all);
    expect(hidden()).toEqual(['a', 'c', 'other learner']);
    useScreen.getState().justOne(['b'], all);
    expect(hidden()).toEqual(['c', 'other learner']);
  });
  test('all of one learner, without touching another’s', () => {
    useScreen.getState().showAll(all);
    expect(hidden()).toEqual(['other learner']);
  });
  test('it is kept on the device', () => {
    useScreen.getState().toggle(['a']);
    expect(JSON.parse(localStorage.getItem('zephyrfield-screen')!).state.hidden).toContain('a');
  });
});
