import { monitorEventLoopDelay, performance } from 'node:perf_hooks';
import { ESSAY, FLAG, Installation } from './harness';
test('x', async () => {
  const w = await Installation.start('');
  const { agent, learnerId } = await w.person();
  const { body: { id: calendarId } } = await agent.post(`/api/learners/${learnerId}/calendars`).send({ name: 'Home', kind: 'home', zone: 'Europe/Dublin', ...FLAG });
  const h = monitorEventLoopDelay({ resolution: 5 });
  for (const [what, rule, date, n] of [
    ['weekly 100', 'FREQ=WEEKLY;COUNT=2147483647', '0100-01-04', 50],
    ['daily', 'FREQ=DAILY', '2026-10-01', 25],
  ] as const) {
    const writes = Array.from({ length: n }, (_, i) => ({ id: null, calendarId, version: 0, item: { ...ESSAY, title: `T${i}`, when: { kind: 'date', date }, repeat: { rule, except: [] } } }));
    h.reset(); h.enable();
    const began = performance.now();
    const r = await agent.post(`/api/learners/${learnerId}/own`).send({ writes });
    console.log(what, r.status, JSON.stringify(r.body).slice(0, 200), Math.round(performance.now() - began), 'max', h.max / 1e6);
    h.reset();
    const r2 = await agent.get(`/api/learners/${learnerId}/occurrences`).query({ from: '2026-01-01T00:00:00Z', to: '2029-04-01T00:00:00Z' });
    console.log('read', r2.status, r2.text.length, 'max', h.max / 1e6);
    await new Promise((d) => setTimeout(d, 2000));
    console.log('after', h.max / 1e6);
  }
  await w.stop();
}, 120000);
