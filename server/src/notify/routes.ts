import { routes } from '@zephyrfield/core/api/routes';
import type { Express } from 'express';
import type { Mount } from '../http/mount.ts';
import { refuseUnlessVersion } from '../http/problem.ts';
import type { NotifyService } from './service.ts';
import type { NotifyStore } from './store.ts';

const ok = { ok: true as const };

export interface NotifyRoutes {
  notify: NotifyService;
  store: NotifyStore;
  changed(learnerId: string): void;
}

export function mountNotify(mount: Mount, { notify, store, changed }: NotifyRoutes): void {
  mount(routes.notices, ({ caller }) => notify.notices(caller.personId));
  mount(routes.seeNotices, ({ caller, body }) => {
    notify.see(caller.personId, body.ids.map(Number));
    return ok;
  });
  mount(routes.seeNews, ({ caller, body }) => {
    notify.seeAll(caller.personId, Date.parse(body.upTo));
    return ok;
  });
  mount(routes.takeNotices, ({ caller }) => notify.take(caller.personId));
  mount(routes.snoozeNotice, ({ caller, params, body }) => {
    notify.snooze(caller.personId, Number(params.id), Date.parse(body.until));
    return ok;
  });
  mount(routes.noticeSettings, ({ caller }) => notify.view(caller.personId));
  mount(routes.changeNoticeSettings, ({ caller, body }) => notify.change(caller.personId, body));
  mount(routes.tryMail, async ({ caller }) => {
    await notify.tryMail(caller.personId);
    return ok;
  });
  mount(routes.daySheet, ({ caller, query }) => notify.sheet(caller.personId, query.edition, query.day));
  mount(routes.changeReminders, ({ learner, body }) => {
    store.transaction(() => {
      refuseUnlessVersion(store.remindersOf(learner.id), body.version);
      store.saveReminders(learner.id, body.reminders);
    });
    changed(learner.id);
    return ok;
  });
}

/**
 * The way out of all mail that stands in each mail's head: one press for who has no session here (RFC 8058).
 */
export function mountMailStop(
  app: Express,
  { personOf, stop }: { personOf(token: string): string | null; stop(personId: string): void },
): void {
  app.get('/api/mail/stop/:token', (_req, res) => res.redirect('/notice-settings'));
  app.post('/api/mail/stop/:token', (req, res) => {
    const personId = personOf(req.params.token);
    if (personId) stop(personId);
    // Whether there was such a person is nobody's business.
    res.json(ok);
  });
}
