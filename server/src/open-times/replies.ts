import type { RepliesView } from '@zephyrfield/core/api/open-times';
import type { Clock } from '../clock.ts';
import type { CrewStore } from '../crew/store.ts';
import { ProblemError, notFound } from '../http/problem.ts';
import type { ItemStore } from '../items/store.ts';
import type { OpenTimeStore } from './store.ts';

export interface ReplyDeps {
  store: OpenTimeStore;
  items: ItemStore;
  crews: Pick<CrewStore, 'members'>;
  clock: Clock;
  changed(learnerId: string): void;
  tell(
    personIds: readonly string[],
    learnerId: string,
    told: { id: string; title: string; line: string; itemId: string },
  ): void;
  mayAnswer(learnerId: string): string[];
  /** The item by which a schedule follows another one */
  copyIn(learnerId: string, uid: string): string | undefined;
}

/** Somebody who is asked: a schedule that follows the event, or a person in the crew it is in. */
interface Asked {
  learnerId: string;
  personId: string | null;
  name: string;
}

/** Events that ask whether one will come, and what was answered. */
export function replyService({ store, items, crews, clock, changed, tell, mayAnswer, copyIn }: ReplyDeps) {
  const item = (id: string) => items.item(id)!;

  /** Tells whom an event asks: all who follow it; where nobody does, the others of its crew. */
  function askedOf(rootId: string, askedBy: string): Asked[] {
    const followers = store.followersOf(rootId);
    if (followers.length) return followers.map((f) => ({ ...f, personId: null }));
    const { learnerId } = item(rootId).item;
    return crews
      .members(learnerId)
      .filter((m) => m.personId !== askedBy)
      .map((m) => ({ learnerId, personId: m.personId, name: m.name }));
  }

  /** An event of one’s own making. @throws ProblemError */
  function ownEvent(id: string) {
    const found = item(id);
    if (found.kind !== 'handMade')
      throw new ProblemError(422, 'not-own', 'Only an event of your own can ask whether people will come.', {
        remedy: 'Whoever has made it can ask.',
      });
    return found.item;
  }

  /** Gives what each has answered, for one date of an event; without one, the last that was said for any of its dates. */
  function answered(rootId: string, recurrenceId: string | undefined, asked: readonly Asked[]) {
    const all = store.repliesTo(rootId, recurrenceId);
    return asked.map((each) => ({
      each,
      reply: all.find(
        (r) => r.learnerId === each.learnerId && (each.personId === null || r.personId === each.personId),
      ),
    }));
  }

  return {
    view(id: string, recurrenceId: string, personId: string, mayAsk: boolean): RepliesView {
      const rootId = store.rootOf(id);
      const question = store.question(rootId);
      const isOwn = rootId === id && item(id).kind === 'handMade';
      const nothing = { yes: 0, no: 0, perhaps: 0 };
      if (!question)
        return {
          asked: false,
          own: null,
          counts: nothing,
          said: [],
          open: [],
          reminded: false,
          mayAsk: isOwn && mayAsk,
        };
      const all = answered(rootId, recurrenceId, askedOf(rootId, question.personId));
      const { learnerId } = item(id).item;
      const own = store
        .repliesTo(rootId, recurrenceId)
        .find((r) => r.learnerId === learnerId && (rootId !== id || r.personId === personId));
      const counts = { ...nothing };
      for (const { reply } of all) if (reply) counts[reply.answer]++;
      const isAsker = question.personId === personId;
      return {
        asked: true,
        own: own?.answer ?? null,
        // Who has said what is for who asks.
        counts: isAsker ? counts : nothing,
        said: isAsker
          ? all.flatMap(({ each, reply }) =>
              reply ? [{ name: each.name, answer: reply.answer, word: reply.word }] : [],
            )
          : [],
        open: isAsker ? all.flatMap(({ each, reply }) => (reply ? [] : [each.name])) : [],
        reminded: question.remindedAt !== null,
        mayAsk: isOwn && mayAsk,
      };
    },

    ask(id: string, asks: boolean, personId: string): void {
      const { learnerId } = ownEvent(id);
      store.transaction(() => (asks ? store.ask(id, personId, clock.now()) : store.askNoMore(id)));
      changed(learnerId);
    },

    say(
      id: string,
      personId: string,
      said: { recurrenceId: string; answer: 'yes' | 'no' | 'perhaps'; word: string },
    ): void {
      const rootId = store.rootOf(id);
      const question = store.question(rootId);
      if (!question) throw notFound('question');
      const { learnerId, title } = item(id).item;
      store.transaction(() => store.say({ itemId: rootId, learnerId, personId, ...said, at: clock.now() }));
      const words = { yes: 'will come', no: 'will not come', perhaps: 'will perhaps come' }[said.answer];
      const by = crews.members(learnerId).find((m) => m.personId === personId)?.name ?? '';
      tell(
        [question.personId].filter((each) => each !== personId),
        item(rootId).item.learnerId,
        {
          id: `${rootId} ${said.recurrenceId} ${personId} ${clock.now()}`,
          title,
          line: [`${by} ${words}.`, said.word].filter(Boolean).join(' '),
          itemId: rootId,
        },
      );
      changed(learnerId);
      changed(item(rootId).item.learnerId);
    },

    /** Reminds those who have not answered for any date, once; gives how many. */
    remind(id: string, personId: string): number {
      const { title, uid } = ownEvent(id);
      const question = store.question(id);
      if (!question) throw notFound('question');
      if (question.remindedAt !== null)
        throw new ProblemError(409, 'reminded', 'They have been reminded once already.', {
          remedy: 'Write them a note.',
        });
      const open = answered(id, undefined, askedOf(id, question.personId)).flatMap(({ each, reply }) =>
        reply ? [] : [each],
      );
      store.transaction(() => store.setReminded(id, clock.now()));
      for (const { learnerId, personId: one } of open)
        tell(
          (one === null ? mayAnswer(learnerId) : [one]).filter((each) => each !== personId),
          learnerId,
          {
            id: `${id} reminded`,
            title,
            line: 'Please answer: will you come?',
            itemId: one === null ? (copyIn(learnerId, uid) ?? id) : id,
          },
        );
      return open.length;
    },
  };
}
export type ReplyService = ReturnType<typeof replyService>;
