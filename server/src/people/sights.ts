import { jointSight, sightOf, type Audience } from '@zephyrfield/core/item/access';
import type { Db } from '../db/open.ts';
import { eyesOf } from '../http/eyes.ts';

/** The calendars of a schedule that are kept from somebody, with what they may know of each. */
export type KeptFrom = ReadonlyMap<string, 'busy' | 'nothing'>;

/** Finds the calendars of a learner's schedule that are kept from somebody. */
export type Sights = (personId: string, learnerId: string) => KeptFrom;

const NOTHING: KeptFrom = new Map();

export function sightsIn({ $client: sqlite }: Db): Sights {
  const guarded = sqlite.prepare<[string], { id: string; audience: string }>(
    'SELECT id, audience FROM calendar WHERE learner_id = ? AND audience IS NOT NULL',
  );
  return (personId, learnerId) => {
    const rows = guarded.all(learnerId);
    if (!rows.length) return NOTHING;
    const eyes = eyesOf(personId);
    const kept = new Map<string, 'busy' | 'nothing'>();
    for (const { id, audience } of rows) {
      const guard = { audience: JSON.parse(audience) as Audience };
      const sight = jointSight(eyes.map((each) => sightOf(each, guard)));
      if (sight !== 'all') kept.set(id, sight);
    }
    return kept;
  };
}
