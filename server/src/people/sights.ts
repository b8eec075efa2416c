import { sightOf, type Audience } from '@zephyrfield/core/item/access';
import type { Db } from '../db/open.ts';
import { whoseEyes } from './see-as.ts';

/** The calendars of a schedule that are kept from somebody, with what they may know of each. */
export type KeptFrom = ReadonlyMap<string, 'busy' | 'nothing'>;

/** Finds what is kept from somebody in a learner's schedule. */
export type Sights = (personId: string, learnerId: string) => KeptFrom;

const NOTHING: KeptFrom = new Map();

export function sightsIn({ $client: sqlite }: Db): Sights {
  const guarded = sqlite.prepare<[string], { id: string; audience: string }>(
    'SELECT id, audience FROM calendar WHERE learner_id = ? AND audience IS NOT NULL',
  );
  return (personId, learnerId) => {
    const rows = guarded.all(learnerId);
    if (!rows.length) return NOTHING;
    const kept = new Map<string, 'busy' | 'nothing'>();
    for (const { id, audience } of rows) {
      const sight = sightOf(whoseEyes(personId), { audience: JSON.parse(audience) as Audience });
      if (sight !== 'all') kept.set(id, sight);
    }
    return kept;
  };
}
