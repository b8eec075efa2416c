import { routes } from '@zephyrfield/core/api/routes';
import type { Mount } from '../http/mount.ts';
import { sendFileOf } from '../http/send-file.ts';
import type { BriefService } from './service.ts';

const ok = { ok: true as const };

export function mountBriefs(mount: Mount, briefs: BriefService): void {
  mount(routes.changeBrief, ({ params, body }) => ({ before: briefs.write(params.id, body) }));
  mount(routes.putBriefs, ({ learner, body }) => ({
    before: briefs.putAll(learner.id, body.writes, body.version),
  }));
  mount(routes.sendBriefFile, ({ caller, params, query, body }) =>
    briefs.addFile(caller.personId, params.id, query.recurrenceId, query.name, body),
  );
  mount(routes.changeBriefFile, ({ params, body }) => {
    briefs.setRemoved(params.id, body.removed, 'brief');
    return ok;
  });
  mount(routes.sendRecordPhoto, ({ caller, params, query, body }) =>
    briefs.addFile(caller.personId, params.id, query.recurrenceId, query.name, body, 'record'),
  );
  mount(routes.changeRecordPhoto, ({ params, body }) => {
    briefs.setRemoved(params.id, body.removed, 'record');
    return ok;
  });
  mount(routes.keptBriefs, ({ caller }) => briefs.kept(caller.personId));
  mount(routes.keepBrief, ({ caller, body }) => briefs.keep(caller.personId, body));
  mount(routes.forgetBrief, ({ caller, params }) => {
    briefs.forget(caller.personId, params.id);
    return ok;
  });
  mount.stream(routes.briefFileBytes, async ({ params, req, res }) =>
    sendFileOf(await briefs.file(params.id), req, res),
  );
}
