import type { Questions } from '@zephyrfield/core/api/schemas';
import { isWork, type ItemKind } from '@zephyrfield/core/item/kind';
import { KIND_WORDS } from '@zephyrfield/core/item/words';
import { useQuery } from '@tanstack/react-query';
import { call } from './client';
import { queryClient, refreshLearner } from './queries';
import { useUndo } from './undo';
import { writing } from './writing';

/** Gives what only a person knows of what was gathered: asked, not guessed. */
export const useQuestions = (learnerId: string) =>
  useQuery<Questions>({
    queryKey: ['learner', learnerId, 'questions'],
    queryFn: () => call('questions', { params: { learnerId } }),
  });

/** Asks the server for something that changes what is shown, as one step that can be taken back. */
async function step(
  learnerId: string,
  words: string,
  work: () => Promise<unknown>,
  back: () => Promise<unknown>,
) {
  const done = async (what: () => Promise<unknown>) => {
    await what();
    await refreshLearner(queryClient, learnerId);
  };
  try {
    await done(work);
    useUndo.getState().did({ words, undo: () => done(back) });
  } catch (error) {
    useUndo.getState().failed(error);
  }
}

interface Named {
  itemId: string;
  title: string;
}

/**
 * Says whether two items are the same thing.
 * @param before what had been said of them; null: nothing
 */
export const sayWhetherSame = (
  learnerId: string,
  a: Named,
  b: Named,
  same: boolean,
  before: boolean | null = null,
): Promise<void> => {
  const say = (duplicate: boolean | null) => () =>
    call('setDuplicate', { params: { id: a.itemId, otherId: b.itemId }, body: { duplicate } });
  const words = same ? `${a.title} is shown once` : `${a.title} and ${b.title} are two things`;
  return writing(step(learnerId, words, say(same), say(before)));
};

/** Lists the answers to whether a doubtful item is work, with the kind that each stands for. */
export const ANSWERS = [
  { words: 'Work to do', value: 'assignment' },
  { words: 'An event', value: 'meeting' },
  { words: 'Just information', value: 'reminder' },
] as const;

/** Says what an item is, and all that are like it; the kind of work it was taken for stays. */
export const sayWhatItIs = (
  learnerId: string,
  { itemId, title, kind }: Named & { kind: ItemKind },
  answer: ItemKind,
): Promise<void> => {
  const say = (as: ItemKind | null) => () =>
    call('correctItem', { params: { id: itemId }, body: { kind: as, all: true } });
  const as = isWork(kind) && isWork(answer) ? kind : answer;
  return writing(step(learnerId, `${title}: ${KIND_WORDS[as]}`, say(as), say(null)));
};

/** Says which entry of its feed a lost item is now: it takes that one's place. */
export const matchItem = (learnerId: string, lost: Named, found: Named): Promise<void> => {
  const match = () => call('matchItem', { params: { id: lost.itemId }, body: { to: found.itemId } });
  return writing(step(learnerId, `${lost.title} is now ${found.title}`, match, match));
};

/** Says that a lost item is none of those there are. What was added to it stays with it, out of sight. */
export async function letGo(learnerId: string, lost: Named): Promise<void> {
  try {
    await call('matchItem', { params: { id: lost.itemId }, body: { to: null } });
    await refreshLearner(queryClient, learnerId);
  } catch (error) {
    useUndo.getState().failed(error);
  }
}
