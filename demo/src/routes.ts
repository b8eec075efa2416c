import { routes } from '@zephyrfield/core/api/routes';
import type { AppParts } from '@zephyrfield/server/app';
import type { Mount } from '@zephyrfield/server/http/mount';
import { notFound } from '@zephyrfield/server/http/problem';
import { sessionView } from '@zephyrfield/server/people/routes';
import type { DemoClock } from './clock.ts';
import { DEMO_PASSWORD, PEOPLE, emailOf } from './people.ts';

const MINUTE = 60_000;
/** So many things may come due in one move of the clock; what is beyond comes late, as after an outage. */
const MOST_STEPS = 2000;

/** What only the demo has: signing in as somebody by a click, and a clock that can be moved. Never part of a real server. */
export function mountDemo(mount: Mount, { auth, people, engine }: AppParts, clock: DemoClock): void {
  mount.open(routes.demoPeople, () => PEOPLE.map(({ id, name, role }) => ({ id, name, role })));
  mount.open(routes.demoBecome, async ({ params, res }) => {
    const person = PEOPLE.find((p) => p.id === params.id);
    const known = person && people.byEmail(emailOf(person));
    if (!known) throw notFound('person in the demo');
    const { headers } = await auth.api.signInEmail({ body: { email: emailOf(person), password: DEMO_PASSWORD }, returnHeaders: true });
    for (const cookie of headers.getSetCookie()) res.append('Set-Cookie', cookie);
    return sessionView(people, clock, true, known.id);
  });
  mount(routes.demoClock, async ({ body }) => {
    const target = clock.now() + body.minutes * MINUTE;
    // From one thing that comes due to the next, so that all of it happens in order and at its time.
    for (let steps = 0; steps < MOST_STEPS; steps++) {
      const next = engine.nextAt();
      if (next === null || next >= target) break;
      if (next > clock.now()) clock.set(next);
      await engine.run();
      if (engine.nextAt() === next) break;
    }
    clock.set(Math.max(target, clock.now()));
    await engine.run();
    return { now: new Date(clock.now()).toISOString() };
  });
}
