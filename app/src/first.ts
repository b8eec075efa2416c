// A small script of its own, read before all others: while they are still on their way it asks for what the
// first view is going to ask for, so that the view finds it there; and keeps what is pressed in a page that
// is only drawn yet. It knows nothing of React.
import type { Session } from '@zephyrfield/core/api/schemas';
import { between, lookedAt, nearDays } from '@zephyrfield/core/view/near';
import { prefetch, prefetchedValue } from './data/prefetch';
import { kept, leaveLook } from './data/look';
import { pathOf } from './data/path';
import { keepPresses } from './server-render/presses';
import { onceRead } from './server-render/read';
import { tellUnloaded } from './server-render/unloaded';

/** What each place begins with, beside its session. */
const BEGINS = {
  '/today': ['calendars', 'occurrences', 'plan', 'changes', 'notices'],
  '/calendar': ['calendars', 'occurrences', 'plan', 'changes'],
  '/todo': ['calendars', 'occurrences'],
  '/plan': ['calendars', 'occurrences', 'plan'],
} as const;

async function first(): Promise<void> {
  // A page that the server has drawn holds at its end what it was drawn from.
  if (document.documentElement.hasAttribute('data-server-rendered'))
    await new Promise<void>((done) => onceRead(done));
  const ask = async (path: string): Promise<unknown> => prefetchedValue(path) ?? (await prefetch(path));
  const session = (await ask(pathOf('session'))) as Session | undefined;
  const learner = session && lookedAt(session.learners, kept().learnerId);
  if (!learner) return;
  const place = location.pathname === '/' ? '/today' : location.pathname;
  const { first, last } = nearDays(Date.parse(session.now));
  for (const name of BEGINS[place as keyof typeof BEGINS] ?? []) {
    const params = name === 'notices' ? undefined : { learnerId: learner.id };
    void ask(pathOf(name, params, name === 'occurrences' ? between(first, last) : undefined));
  }
}

tellUnloaded();
keepPresses();
leaveLook(kept());
void first();
// The first zone that is asked for takes its time; once the page has been painted, nothing waits for it.
requestAnimationFrame(() => setTimeout(() => new Intl.DateTimeFormat('en-US', { timeZone: 'UTC' })));
