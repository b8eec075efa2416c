import { routes } from '@zephyrfield/core/api/routes';
import type { Mount } from '../http/mount.ts';
import type { OutlineService } from './service.ts';

export function mountOutlines(mount: Mount, outlines: OutlineService): void {
  mount(routes.outlines, ({ caller, learner }) => outlines.of(learner.id, caller.personId));
  mount(routes.sendOutline, ({ caller, learner, query, body }) =>
    outlines.send(learner.id, caller.personId, body, query),
  );
  mount(routes.outline, ({ caller, params, query }) => outlines.view(params.id, caller.personId, query));
  mount(routes.keepOutline, ({ params, body }) => outlines.keep(params.id, body));
  mount(routes.forgetOutline, ({ params }) => {
    outlines.forget(params.id);
    return { ok: true as const };
  });
}
