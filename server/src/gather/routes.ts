import { routes } from '@zephyrfield/core/api/routes';
import type { Mount } from '../http/mount.ts';
import { notFound } from '../http/problem.ts';
import type { Admit } from '../people/access.ts';
import type { GatherService } from './service.ts';
import { changeView, type GatherStore } from './store.ts';

export function mountGather(mount: Mount, service: GatherService, store: GatherStore, admit: Admit): void {
  const sourceFor = (personId: string, id: string) => {
    const row = store.byId(id);
    if (!row) throw notFound('followed link');
    admit(personId, row.learnerId, 'edit');
    return row;
  };
  mount(routes.sources, ({ caller, params }) => {
    admit(caller.personId, params.learnerId, 'look');
    return store.ofLearner(params.learnerId).map(({ source, entries }) => service.sourceView(source, entries));
  });
  mount(routes.preview, ({ caller, params, body }) => {
    admit(caller.personId, params.learnerId, 'edit');
    return service.preview(params.learnerId, body.address, body.zone);
  });
  mount(routes.follow, ({ caller, params, body }) => {
    admit(caller.personId, params.learnerId, 'edit');
    return service.follow(params.learnerId, body);
  });
  mount(routes.readSource, ({ caller, params, body }) => service.readSource(sourceFor(caller.personId, params.id).id, body.confirm));
  mount(routes.changeSource, ({ caller, params, body }) => service.pause(sourceFor(caller.personId, params.id).id, body.paused));
  mount(routes.removeSource, ({ caller, params }) => {
    service.remove(sourceFor(caller.personId, params.id).id);
    return { ok: true as const };
  });
  mount(routes.changes, ({ caller, params }) => {
    admit(caller.personId, params.learnerId, 'look');
    const upTo = store.seenUpTo(caller.personId, params.learnerId);
    return store.changesOf(params.learnerId).map((row) => changeView(row, upTo));
  });
  mount(routes.seeChanges, ({ caller, params, body }) => {
    admit(caller.personId, params.learnerId, 'look');
    store.see(caller.personId, params.learnerId, body.upTo);
    return { ok: true as const };
  });
}
