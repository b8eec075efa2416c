// A small script of its own, read before all others: while they are still on their way it asks for what the first view is
// going to ask for, so that the view finds it there. It knows nothing of React.
import type { Session } from '@zephyrfield/core/api/schemas';
import { askEarly } from './data/early';
import { between, lookedAt, nearDays } from './data/near';
import { pathOf } from './data/path';

/** What each place begins with, beside its session. */
const BEGINS = {
  '/today': ['calendars', 'occurrences', 'changes', 'notices'],
  '/calendar': ['calendars', 'occurrences', 'changes'],
  '/todo': ['calendars', 'occurrences'],
} as const;

/** The learner last chosen on this device. */
function chosen(): string | null {
  try {
    return (JSON.parse(localStorage.getItem('zephyrfield-screen') ?? 'null') as { state: { learnerId: string | null } } | null)?.state.learnerId ?? null;
  } catch {
    return null;
  }
}

async function first(): Promise<void> {
  const session = (await askEarly(pathOf('session'))) as Session | undefined;
  const learner = session && lookedAt(session.learners, chosen());
  if (!learner) return;
  const place = location.pathname === '/' ? '/today' : location.pathname;
  const { first, last } = nearDays(Date.parse(session.now));
  for (const name of BEGINS[place as keyof typeof BEGINS] ?? []) {
    const params = name === 'notices' ? undefined : { learnerId: learner.id };
    void askEarly(pathOf(name, params, name === 'occurrences' ? between(first, last) : undefined));
  }
}

void first();
// The first zone that is asked for takes its time; now nothing else waits for it.
new Intl.DateTimeFormat('en-US', { timeZone: 'UTC' });
