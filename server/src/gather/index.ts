import { paths } from '@zephyrfield/core/api/paths';
import type { CalendarStore } from '../calendars/store.ts';
import type { Feature } from '../feature.ts';
import type { Ground } from '../ground.ts';
import type { Outcome } from '../metrics.ts';
import { fileService } from './files.ts';
import { ownersIn } from './owners.ts';
import { questionService } from './questions.ts';
import { removalService } from './removal.ts';
import { mountGather } from './routes.ts';
import { checkSchedule } from './schedule.ts';
import { gatherService } from './service.ts';
import type { GatherStore } from './store.ts';
import { Turns } from './turns.ts';
import { understandingService } from './understanding.ts';

/** Troubles by which a server says that it needs rest. */
const BUSY: ReadonlySet<string> = new Set(['busy', 'serverFault', 'timeout', 'unreachable']);

/** Gathering: links that are followed and checked, files, what their entries are, questions about them. */
export function gatherFeature(ground: Ground, calendars: CalendarStore, gathered: GatherStore) {
  const { config, db, clock, pool, secrets, sights, hub, changed, live, base, metrics, log } = ground;
  const common = {
    store: gathered,
    calendars,
    pool,
    secrets,
    clock,
    changed,
    checked: live.tellChecked,
    turns: new Turns(),
    sights,
  };
  const gather = gatherService({
    ...common,
    chance: Math.random,
    fetch: {
      allowedHosts: config.ALLOW_HOSTS,
      // A link that goes out of here may be followed here.
      isOwn: (url) => url.host === new URL(base()).host && url.pathname.startsWith('/out/'),
      timeoutMs: config.FETCH_SECONDS * 1000,
      maxBytes: config.FETCH_MEGABYTES * 2 ** 20,
    },
  });
  const files = fileService({ ...common, gather });
  const understanding = understandingService(common);
  const questions = questionService({ store: gathered, calendars, sights, clock, changed });
  const removal = removalService({
    ...common,
    left: (calendarId, learnerId) => hub.tell('calendarLeft', calendarId, learnerId),
  });
  const schedule = checkSchedule({
    due: (limit, busy) => gathered.dueForCheck(clock.now(), limit, busy),
    check: async (id) => {
      const began = performance.now();
      const done = (outcome: Outcome) => metrics.checked(outcome, (performance.now() - began) / 1_000);
      const { source, unchanged } = await gather.readSource(id).catch((error: unknown) => {
        done('fault');
        throw error;
      });
      done(source.trouble?.code ?? (unchanged ? 'nothing new' : 'changed'));
      return { isBusy: source.trouble !== null && BUSY.has(source.trouble.code) };
    },
    now: () => performance.now(),
    log,
  });
  hub.on('newsSeen', gathered.seeAll);
  const feature: Feature = {
    mount: (mount) =>
      mountGather(mount, {
        ...{ gather, files, understanding, questions, removal, store: gathered, sights },
        seen: (personId, learnerId, changeId) => hub.tell('changesSeen', personId, learnerId, changeId),
      }),
    owners: ownersIn(db),
    costly: [paths.preview, paths.follow, paths.sendFile, paths.readSource],
    prepare: removal.removeUnfinished,
    hourly: [files.tidy],
    start: schedule.start,
    stop: schedule.stop,
  };
  return { gather, files, understanding, removal, schedule, turns: common.turns, feature };
}
