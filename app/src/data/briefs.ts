import type { Brief, BriefFile, KeptBrief } from '@zephyrfield/core/api/own';
import { versionOf } from '@zephyrfield/core/lib/version';
import { useQuery } from '@tanstack/react-query';
import { call } from './client';
import { useUndo } from './undo';
import { refresh } from './queries';

const KEPT = ['kept briefs'] as const;
/** After a brief was changed, here or elsewhere. */
export const refreshBriefs = () => refresh(['item']);

/** Briefs the person keeps to begin others with. */
export const useKeptBriefs = () =>
  useQuery<KeptBrief[]>({ queryKey: KEPT, queryFn: () => call('keptBriefs'), staleTime: 300_000 });

/** The parts of a brief in the order they stand in everywhere, with what each is for. */
export const BRIEF_FIELDS: readonly (readonly [keyof Brief, string, string])[] = [
  ['aim', 'Aim', 'What it is for, in a sentence'],
  ['steps', 'Steps', 'One a line'],
  ['time', 'Expected time', 'How long it should take, and what to do when it takes longer'],
  ['help', 'Getting help', 'Where, when, with whom'],
  ['adjustments', 'Adjustments', 'What may be left out or done otherwise'],
  ['good', 'What good looks like', ''],
  ['ask', 'Who to ask', ''],
  ['questions', 'Common questions', ''],
];
export const NO_BRIEF: Brief = {
  aim: '',
  steps: '',
  time: '',
  help: '',
  adjustments: '',
  good: '',
  ask: '',
  questions: '',
};
/** A brief with nothing in it is none. */
export const briefOrNone = (brief: Brief): Brief | null =>
  BRIEF_FIELDS.some(([name]) => brief[name].trim()) ? brief : null;

/**
 * Writes an item's brief, for all its dates, for one, or for all items like it, with the way back.
 * @throws Refusal
 */
export async function writeBrief(
  learnerId: string,
  itemId: string,
  body: { recurrenceId: string; brief: Brief | null; alike: boolean; version: string | null },
  words: string,
): Promise<void> {
  const { before } = await call('changeBrief', { params: { id: itemId }, body });
  // Taken back where what was written here still stands, and not where somebody else has made something else
  // of it.
  useUndo.getState().did({
    words,
    undo: () =>
      call('putBriefs', {
        params: { learnerId },
        body: { writes: before, version: versionOf(body.brief) },
      }).then(() => refreshBriefs()),
  });
  await refreshBriefs();
}

/** Takes a file of a brief away, with the way back. */
export async function removeBriefFile({ id, name }: BriefFile): Promise<void> {
  const set = (removed: boolean) =>
    call('changeBriefFile', { params: { id }, body: { removed } }).then(() => refreshBriefs());
  try {
    await set(true);
    useUndo.getState().did({ words: `${name} removed`, undo: () => set(false) });
  } catch (error) {
    useUndo.getState().failed(error);
  }
}

/** Takes a photo of a record away, with the way back. */
export async function removePhoto({ id }: BriefFile): Promise<void> {
  const set = (removed: boolean) =>
    call('changeRecordPhoto', { params: { id }, body: { removed } }).then(() => refreshBriefs());
  try {
    await set(true);
    useUndo.getState().did({ words: 'Photo removed', undo: () => set(false) });
  } catch (error) {
    useUndo.getState().failed(error);
  }
}

/** Keeps a brief under a name. @throws Refusal */
export async function keepBrief(name: string, brief: Brief): Promise<void> {
  await call('keepBrief', { body: { name, brief } });
  await refresh(KEPT);
  useUndo.getState().say(`Saved as template “${name}”.`);
}

/** Keeps a brief no more, with the way back. */
export async function forgetBrief({ id, name, brief }: KeptBrief): Promise<void> {
  const anew = () => refresh(KEPT);
  try {
    await call('forgetBrief', { params: { id } });
    await anew();
    useUndo.getState().did({
      words: `Template “${name}” deleted`,
      undo: () => call('keepBrief', { body: { name, brief } }).then(anew),
    });
  } catch (error) {
    useUndo.getState().failed(error);
  }
}

export const fileSize = (bytes: number): string =>
  bytes < 2 ** 20 ? `${Math.max(1, Math.round(bytes / 1024))} KB` : `${(bytes / 2 ** 20).toFixed(1)} MB`;
/** Where a file's bytes are to be had. */
export const fileAddress = (id: string): string => `/api/brief-files/${encodeURIComponent(id)}/bytes`;
