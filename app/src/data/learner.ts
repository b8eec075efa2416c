import type { Learner } from '@zephyrfield/core/api/schemas';
import { UTC, ianaZone, type Zone } from '@zephyrfield/core/time/zone';
import { useSession } from './queries';
import { useScreen } from './screen';

/** The learner whose schedule is looked at, and the zone it is looked at in. Null where there is none to see yet. */
export function useLearner(): { learner: Learner; learners: Learner[]; viewer: Zone } | null {
  const { data } = useSession();
  const chosen = useScreen((s) => s.learnerId);
  const learners = data?.learners ?? [];
  const learner = learners.find((l) => l.id === chosen) ?? learners[0];
  return learner ? { learner, learners, viewer: ianaZone(learner.zone) ?? UTC } : null;
}
