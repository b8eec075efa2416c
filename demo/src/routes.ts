import { routes } from '@zephyrfield/core/api/routes';
import type { Services } from '@zephyrfield/server/app';
import type { Mount } from '@zephyrfield/server/http/mount';
import { notFound } from '@zephyrfield/server/http/problem';
import { sessionView } from '@zephyrfield/server/people/views';
import { advanceTo } from './advance.ts';
import type { DemoClock } from './clock.ts';
import { DEMO_PASSWORD, PEOPLE, emailOf } from './people.ts';

const MINUTE = 60_000;

/**
 * What only the demo has: signing in as somebody by a click, and a clock that can be moved. Never part of a
 * real server.
 */
export function mountDemo(
  mount: Mount,
  { auth, people, engine }: Services,
  clock: DemoClock,
  postbox: string,
): void {
  mount.open(routes.demoPeople, () => PEOPLE.map(({ id, name, role }) => ({ id, name, role })));
  mount.open(routes.demoBecome, async ({ params, res }) => {
    const person = PEOPLE.find((p) => p.id === params.person);
    const known = person && people.byEmail(emailOf(person));
    if (!known) throw notFound('person in the demo');
    const { headers } = await auth.api.signInEmail({
      body: { email: emailOf(person), password: DEMO_PASSWORD },
      returnHeaders: true,
    });
    for (const cookie of headers.getSetCookie()) res.append('Set-Cookie', cookie);
    return sessionView(people, known.id, { now: clock.now(), demo: true, open: true });
  });
  // One move after the other: two quick presses are two hours.
  let moving = Promise.resolve();
  mount(routes.demoClock, async ({ body }) => {
    moving = moving.then(() => advanceTo(clock.now() + body.minutes * MINUTE, clock, engine));
    await moving;
    return { now: new Date(clock.now()).toISOString() };
  });
  mount.open(routes.demoPostbox, () => ({ address: postbox }));
}
