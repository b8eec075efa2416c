import { suffices } from '@zephyrfield/core/item/access';
import type { Learner } from '@zephyrfield/core/api/schemas';
import { UTC, ianaZone, type Zone } from '@zephyrfield/core/time/zone';
import { DEFAULT_SETTINGS, type Settings } from '@zephyrfield/core/view/settings';
import { viewerOf, type Viewer } from '@zephyrfield/core/words/when';
import { lookedAt } from '@zephyrfield/core/view/near';
import { useMemo } from 'react';
import { EVERYBODY, useSession } from './queries';
import { useScreen } from './screen';

/**
 * The learner whose schedule is looked at, and the zone it is looked at in. Null where there is none to see
 * yet.
 */
export function useLearner(): { learner: Learner; learners: Learner[]; viewer: Viewer } | null {
  const { data } = useSession();
  const chosen = useScreen((s) => s.learnerId);
  const learners = data?.learners ?? [];
  const learner = lookedAt(learners, chosen);
  const settings = data?.settings ?? DEFAULT_SETTINGS;
  return learner
    ? {
        learner,
        learners,
        viewer: knownViewer(ianaZone(settings.zone ?? '') ?? ianaZone(learner.zone) ?? UTC, settings),
      }
    : null;
}

/**
 * What is looked at: one learner’s schedule, or all of them together as if they were one’s, in which one may do what
 * may be done in each.
 */
export function useShown(): ReturnType<typeof useLearner> {
  const seen = useLearner();
  const everybody = useScreen((s) => s.everybody);
  return useMemo(() => {
    if (!seen || !everybody || seen.learners.length < 2) return seen;
    const { learners } = seen;
    const first = learners[0]!;
    const access = learners.every((l) => suffices(l.access, 'tick')) ? 'tick' : 'look';
    const term = learners.find((l) => l.term)?.term ?? null;
    return { ...seen, learner: { ...first, id: EVERYBODY, name: 'Everybody', access, isSelf: false, term } };
  }, [seen?.learner, seen?.learners, seen?.viewer, everybody]); // eslint-disable-line react-hooks/exhaustive-deps
}

/** The learner's own wall clock, wherever the person is who looks: evenings are the learner's. */
export function useOwnClock(learner: Learner): Viewer {
  return knownViewer(ianaZone(learner.zone) ?? UTC, useSettings());
}

/** Tells how the person likes to look at things. */
export const useSettings = (): Settings => useSession().data?.settings ?? DEFAULT_SETTINGS;

const viewers = new Map<string, Viewer>();

/** One object for each zone and way of telling time, so that nothing is worked out anew for its sake. */
function knownViewer(zone: Zone, settings: Settings): Viewer {
  const key = `${zone.id} ${settings.hours} ${settings.nightUntil}`;
  const viewer = viewers.get(key) ?? viewerOf(zone, settings);
  viewers.set(key, viewer);
  return viewer;
}
