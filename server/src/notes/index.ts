import { paths } from '@zephyrfield/core/api/paths';
import { threadPath } from '@zephyrfield/core/notify/links';
import type { Feature } from '../feature.ts';
import { fileKinds } from '../files/index.ts';
import type { Ground } from '../ground.ts';
import { localPart } from './inbox.ts';
import { ownersIn } from './owners.ts';
import { mountNotes } from './routes.ts';
import { noteService, type NoteDeps } from './service.ts';
import { noteStore } from './store.ts';

/** Notes between the people of a crew, answered in the application or by mail. */
export function notesFeature(ground: Ground, parts: Pick<NoteDeps, 'crews' | 'calendars' | 'items'>) {
  const { config, db, secrets, folder, clock, people, sights, limits, hub, live, pool } = ground;
  const notes = noteService({
    ...parts,
    store: noteStore(db),
    people,
    sights,
    folder,
    attempts: limits,
    clock,
    kindOf: fileKinds(pool),
    tell: (personIds, learnerId, { noteId, threadId, itemId, by, words }) =>
      hub.tell('news', personIds, learnerId, {
        cause: 'note',
        causeId: String(noteId),
        itemId,
        title: `${by} wrote`,
        line: words,
        leads: threadPath(threadId),
      }),
    refreshed: live.tellPerson,
    read: (personId, threadId, noteId) => hub.tell('threadRead', personId, threadId, noteId),
  });
  hub.on('noteSeen', notes.readNote);
  hub.on('newsSeen', notes.readAll);
  /** Gives the address by which somebody answers in a thread from their mail; null where no mail is taken in. */
  const replyTo = (threadId: string, personId: string): string | null => {
    if (config.INBOX_PORT === undefined) return null;
    const token = secrets.digest(`note by mail ${threadId} ${personId}`).slice(0, 40);
    notes.setMail(threadId, personId, token);
    return `${localPart(token)}@${config.INBOX_DOMAIN}`;
  };
  const feature: Feature = {
    mount: (mount) => mountNotes(mount, notes),
    owners: ownersIn(db),
    costly: [paths.sendNoteFile],
    hourly: [notes.tidy],
  };
  return { notes, replyTo, feature };
}
