import { routes } from '@zephyrfield/core/api/routes';
import { may } from '@zephyrfield/core/item/access';
import type { Mount } from '../http/mount.ts';
import { standingOf } from '../people/access.ts';
import type { ReplyService } from './replies.ts';
import type { OpenTimeService } from './service.ts';

const ok = { ok: true as const };

export function mountOpenTimes(mount: Mount, times: OpenTimeService, replies: ReplyService): void {
  mount(routes.openTimes, ({ caller }) => times.of(caller.personId));
  mount(routes.offerTimes, ({ caller, body }) => times.offer(caller.personId, body));
  mount(routes.endTimes, ({ params }) => {
    times.end(params.id);
    return ok;
  });
  mount(routes.openSlots, ({ caller, learner }) => times.slots(learner.id, caller.personId));
  mount(routes.takeSlot, ({ caller, params, body }) =>
    times.take(params.id, body.learner, caller.personId, body.word),
  );
  mount(routes.giveBack, ({ caller, params, body }) =>
    times.giveBack(params.id, caller.personId, body.word, body.to),
  );
  mount(routes.replies, ({ caller, learner, params, query }) =>
    replies.view(
      params.id,
      query.recurrenceId,
      caller.personId,
      may(standingOf(caller.personId, learner), 'edit'),
    ),
  );
  mount(routes.askToCome, ({ caller, params, body }) => {
    replies.ask(params.id, body.asks, caller.personId);
    return ok;
  });
  mount(routes.sayComing, ({ caller, params, body }) => {
    replies.say(params.id, caller.personId, body);
    return ok;
  });
  mount(routes.remindToAnswer, ({ caller, params }) => ({
    reminded: replies.remind(params.id, caller.personId),
  }));
}
