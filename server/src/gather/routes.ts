import { routes } from '@zephyrfield/core/api/routes';
import type { Mount } from '../http/mount.ts';
import { notFound } from '../http/problem.ts';
import type { Admit } from '../people/access.ts';
import type { FileService } from './files.ts';
import type { RemovalService } from './removal.ts';
import type { GatherService } from './service.ts';
import { changeView, type GatherStore } from './store.ts';
import type { UnderstandingService } from './understanding.ts';

export interface GatherParts {
  gather: GatherService;
  files: FileService;
  understanding: UnderstandingService;
  removal: RemovalService;
  store: GatherStore;
  admit: Admit;
}

export function mountGather(mount: Mount, { gather, files, understanding, removal, store, admit }: GatherParts): void {
  const sourceFor = (personId: string, id: string) => {
    const row = store.byId(id);
    if (!row || row.removedAt !== null) throw notFound('source');
    admit(personId, row.learnerId, 'edit');
    return row;
  };
  mount(routes.sources, ({ caller, params }) => {
    admit(caller.personId, params.learnerId, 'look');
    return store.ofLearner(params.learnerId).map(gather.view);
  });
  mount(routes.preview, ({ caller, params, body }) => {
    admit(caller.personId, params.learnerId, 'edit');
    return gather.preview(params.learnerId, body.address, body.zone);
  });
  mount(routes.follow, ({ caller, params, body }) => {
    admit(caller.personId, params.learnerId, 'edit');
    return gather.follow(params.learnerId, body);
  });
  mount(routes.readSource, ({ caller, params, body }) => gather.readSource(sourceFor(caller.personId, params.id).id, body.confirm));
  mount(routes.changeSource, ({ caller, params, body }) => gather.change(sourceFor(caller.personId, params.id).id, body));
  mount(routes.removeSource, ({ caller, params }) => {
    removal.remove(sourceFor(caller.personId, params.id).id);
    return { ok: true as const };
  });
  mount(routes.sendFile, ({ caller, params, query, body }) => {
    admit(caller.personId, params.learnerId, 'edit');
    return files.send(params.learnerId, body, query.name, query.zone);
  });
  mount(routes.takeFile, ({ caller, params, body }) => {
    admit(caller.personId, files.learnerOf(params.id), 'edit');
    return files.take(params.id, body);
  });
  mount(routes.takeFileInto, ({ caller, params, body }) => files.takeInto(sourceFor(caller.personId, params.id).id, body.fileId, body.confirm));
  mount(routes.splits, ({ caller, params }) => understanding.proposals(sourceFor(caller.personId, params.id).id));
  mount(routes.changeSplit, ({ caller, params, body }) => understanding.split(sourceFor(caller.personId, params.id).id, body.split));
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
