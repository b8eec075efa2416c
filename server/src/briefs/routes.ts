import { routes } from '@zephyrfield/core/api/routes';
import type { Router } from 'express';
import type { Authenticate, Mount } from '../http/mount.ts';
import { signInFirst } from '../http/problem.ts';
import type { Admit } from '../people/access.ts';
import { isPicture } from './kind.ts';
import type { BriefService } from './service.ts';

export function mountBriefs(mount: Mount, { briefs, admit }: { briefs: BriefService; admit: Admit }): void {
  const ok = { ok: true as const };
  mount(routes.changeBrief, ({ caller, params, body }) => {
    admit(caller.personId, briefs.learnerOf(params.id), 'edit');
    return { before: briefs.write(params.id, body) };
  });
  mount(routes.putBriefs, ({ caller, params, body }) => {
    admit(caller.personId, params.learnerId, 'edit');
    return { before: briefs.putAll(params.learnerId, body.writes, body.over) };
  });
  mount(routes.sendBriefFile, ({ caller, params, query, body }) => {
    admit(caller.personId, briefs.learnerOf(params.id), 'edit');
    return briefs.addFile(params.id, query.key, query.name, body);
  });
  mount(routes.changeBriefFile, ({ caller, params, body }) => {
    admit(caller.personId, briefs.file(params.id).learnerId, 'edit');
    briefs.setRemoved(params.id, body.removed);
    return ok;
  });
  mount(routes.keptBriefs, ({ caller }) => briefs.kept(caller.personId));
  mount(routes.keepBrief, ({ caller, body }) => briefs.keep(caller.personId, body));
  mount(routes.forgetBrief, ({ caller, params }) => {
    briefs.forget(caller.personId, params.id);
    return ok;
  });
}

/** A file's bytes, to who may see its learner's schedule. Only pictures are shown in place, and nothing in any of them can run. */
export function mountBriefBytes(router: Router, authenticate: Authenticate, { briefs, admit }: { briefs: BriefService; admit: Admit }): void {
  router.get('/api/brief-files/:id/bytes', async (req, res, next) => {
    const caller = await authenticate(req);
    if (!caller) throw signInFirst();
    const { learnerId, type, name, path } = briefs.file(req.params.id);
    admit(caller.personId, learnerId, 'look');
    if (!isPicture(type)) res.attachment(name);
    res.set({
      'Content-Type': type,
      'Content-Security-Policy': "default-src 'none'; sandbox",
      'Cache-Control': 'private, max-age=86400, immutable',
    });
    res.sendFile(path, { dotfiles: 'allow', cacheControl: false }, (error) => error && next(error));
  });
}
