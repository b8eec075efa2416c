import { routes } from '@zephyrfield/core/api/routes';
import type { Mount } from '../http/mount.ts';
import type { PublishService } from './service.ts';

export function mountPublish(mount: Mount, publish: PublishService): void {
  mount(routes.publications, ({ caller, learner }) => publish.publications(learner.id, caller.personId));
  mount(routes.publish, ({ caller, params, body }) => publish.publish(params.id, body.learnerIds, caller));
  mount(routes.offers, ({ learner }) => publish.offers(learner.id));
  mount(routes.answerOffer, async ({ params, body }) => ({
    calendarId: await publish.answer(params.id, body),
  }));
  mount(routes.openItem, ({ caller, params }) => {
    publish.open(params.id, caller.personId);
    return { ok: true as const };
  });
  mount(routes.ownItems, ({ params }) => publish.ownItems(params.id));
  mount(routes.carryForward, ({ caller, params, body }) => publish.carry(params.id, body, caller));
}
