import { sendFile } from './client';
import { pathOf } from './path';
import { queryClient } from './queries';
import { useScreen } from './screen';

/** Finds where a schedule is had as an archive: the browser fetches it as it does any other file. */
export const archiveAddress = (learnerId: string): string => pathOf('archiveSchedule', { learnerId });

/** Gives what is in an archive, and how it differs from a schedule where one is named. @throws Refusal */
export const lookAtArchive = (file: Blob, compareWith: string | null) =>
  sendFile('lookAtArchive', { params: {}, query: compareWith ? { compareWith } : {}, file }, () => {});

/** Brings an archive back, and looks at what came of it. @throws Refusal */
export async function restoreSchedule(file: Blob, inPlaceOf: string | null): Promise<void> {
  const query: Record<string, string> = inPlaceOf ? { inPlaceOf } : {};
  const { id } = await sendFile('restoreSchedule', { params: {}, query, file }, () => {});
  await queryClient.invalidateQueries();
  useScreen.getState().chooseLearner(id);
}
