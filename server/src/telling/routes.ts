import { routes } from '@zephyrfield/core/api/routes';
import type { Express } from 'express';
import type { Mount } from '../http/mount.ts';
import { refuseUnlessOver } from '../http/problem.ts';
import type { TellingService } from './service.ts';
import type { TellingStore } from './store.ts';

const ok = { ok: true as const };

export interface TellingRoutes {
  telling: TellingService;
  store: TellingStore;
  changed(learnerId: string): void;
}

export function mountTelling(mount: Mount, { telling, store, changed }: TellingRoutes): void {
  mount(routes.notices, ({ caller }) => telling.notices(caller.personId));
  mount(routes.seeNotices, ({ caller, body }) => {
    telling.see(caller.personId, body.ids.map(Number));
    return ok;
  });
  mount(routes.takeNotices, ({ caller }) => telling.take(caller.personId));
  mount(routes.snoozeNotice, ({ caller, params, body }) => {
    telling.snooze(caller.personId, Number(params.id), Date.parse(body.until));
    return ok;
  });
  mount(routes.telling, ({ caller }) => telling.view(caller.personId));
  mount(routes.changeTelling, ({ caller, body }) => telling.change(caller.personId, body));
  mount(routes.tryMail, async ({ caller }) => {
    await telling.tryMail(caller.personId);
    return ok;
  });
  mount(routes.dayBrief, ({ caller, query }) => telling.brief(caller.personId, query.part, query.day));
  mount(routes.learnerReminders, ({ learner, body }) => {
    store.transaction(() => {
      refuseUnlessOver(store.remindersOf(learner.id), body.over);
      store.saveReminders(learner.id, body.reminders);
    });
    changed(learner.id);
    return ok;
  });
}

/** The way out of all mail that stands in each mail's head: one press for who has no session here (RFC 8058). */
export function mountMailStop(app: Express, { personOf, stop }: { personOf(token: string): string | null; stop(personId: string): void }): void {
  app.get('/api/mail/stop/:token', (_req, res) => res.redirect('/telling'));
  app.post('/api/mail/stop/:token', (req, res) => {
    const personId = personOf(req.params.token);
    if (personId) stop(personId);
    // Whether there was such a person is nobody's business.
    res.json(ok);
  });
}
