import { routes } from '@zephyrfield/core/api/routes';
import type { Mount } from '../http/mount.ts';
import type { Sights } from '../people/sights.ts';
import type { FileService } from './files.ts';
import type { QuestionService } from './questions.ts';
import type { RemovalService } from './removal.ts';
import type { GatherService } from './service.ts';
import type { GatherStore } from './store.ts';
import { changeView } from './views.ts';
import type { UnderstandingService } from './understanding.ts';

export interface GatherDeps {
  gather: GatherService;
  files: FileService;
  understanding: UnderstandingService;
  questions: QuestionService;
  removal: RemovalService;
  store: GatherStore;
  sights: Sights;
  /** Told when somebody has seen a schedule's changes up to one of them */
  seen(personId: string, learnerId: string, changeId: number): void;
}

export function mountGather(
  mount: Mount,
  { gather, files, understanding, questions, removal, store, sights, seen }: GatherDeps,
): void {
  const ok = { ok: true as const };
  const seenBy = (personId: string, learnerId: string) => {
    const kept = sights(personId, learnerId);
    return ({ calendarId }: { calendarId: string }) => !kept.has(calendarId);
  };
  mount(routes.sources, ({ caller, learner }) => {
    const isSeen = seenBy(caller.personId, learner.id);
    return store
      .ofLearner(learner.id)
      .map(gather.view)
      .filter((s) => s.calendarIds.every((calendarId) => isSeen({ calendarId })));
  });
  mount(routes.preview, ({ caller, learner, body }) =>
    gather.preview(learner.id, body.address, body.zone, caller.personId),
  );
  mount(routes.follow, ({ caller, learner, body }) => gather.follow(learner.id, body, caller.personId));
  mount(routes.readSource, ({ caller, params, body }) =>
    gather.readSource(params.id, body.confirm, caller.personId),
  );
  mount(routes.changeSource, ({ params, body }) => gather.change(params.id, body));
  mount(routes.changeAddress, ({ caller, params, body }) =>
    gather.changeAddress(params.id, body.address, caller.personId),
  );
  mount(routes.removeSource, ({ params }) => {
    removal.remove(params.id);
    return ok;
  });
  mount(routes.sendFile, ({ caller, learner, query, body }) =>
    files.send(learner.id, body, query.name, query.zone, caller.personId),
  );
  mount(routes.takeFile, ({ caller, params, body }) => files.take(params.id, body, caller.personId));
  mount(routes.takeFileInto, ({ caller, params, body }) =>
    files.takeInto(params.id, body.fileId, body.confirm, caller.personId),
  );
  mount(routes.splits, ({ params }) => understanding.proposals(params.id));
  mount(routes.changeSplit, ({ params, body }) => understanding.split(params.id, body.split));
  mount(routes.questions, ({ caller, learner }) =>
    questions.questions(learner.id, learner.zone, caller.personId),
  );
  mount(routes.setDuplicate, ({ learner, params, body }) => {
    questions.setDuplicate(learner.id, params.id, params.otherId, body.duplicate);
    return ok;
  });
  mount(routes.matchItem, ({ learner, params, body }) => {
    questions.match(learner.id, params.id, body.to);
    return ok;
  });
  mount(routes.changes, ({ caller, learner }) => {
    const upTo = store.seenUpTo(caller.personId, learner.id);
    return store
      .changesOf(learner.id)
      .filter(seenBy(caller.personId, learner.id))
      .map((row) => changeView(row, upTo));
  });
  mount(routes.seeChanges, ({ caller, learner, body }) => {
    store.see(caller.personId, learner.id, body.upTo);
    seen(caller.personId, learner.id, body.upTo);
    return ok;
  });
}
