import { createHash } from 'node:crypto';
import type { PeopleStore } from '../people/store.ts';
import type { NoteStore } from './store.ts';

export const digestOf = (token: string): string => createHash('sha256').update(token).digest('hex');

export interface NoteMailDeps {
  store: NoteStore;
  people: Pick<PeopleStore, 'person'>;
  /** Calendars that are kept from somebody, in all schedules they see */
  keptFrom(personId: string): readonly string[];
}

/** Notes as mails, and the addresses by which they are answered. */
export function noteMail({ store, people, keptFrom }: NoteMailDeps) {
  return {
    /** Says why a note is not to be told any more; null where it is. */
    stillTrue(noteId: number, personId: string): string | null {
      const found = store.note(noteId);
      if (!found || found.takenBackAt !== null) return 'taken back meanwhile';
      return store.seen(found.threadId, personId, keptFrom(personId)) ? null : 'not for them any more';
    },

    /** A note as a mail says it: by whom, about what, all of it. */
    asMail(noteId: number, personId: string) {
      const found = store.note(noteId);
      const t = found && store.seen(found.threadId, personId, keptFrom(personId));
      if (!found || !t) return null;
      return {
        threadId: found.threadId,
        by: people.person(found.personId ?? '')?.name ?? '',
        learner: t.learner,
        about: t.itemTitle,
        text: found.text,
        files: store.filesOf(noteId).map((f) => (f.seconds === null ? f.name : 'a spoken note')),
      };
    },

    /** Tells whose answer what stands in a mail’s address is, and to which thread; null where it is nobody’s any more. */
    byMail(digest: string): { threadId: string; personId: string } | null {
      const found = store.byMail(digest);
      if (!found) return null;
      return store.seen(found.threadId, found.personId, keptFrom(found.personId)) ? found : null;
    },
    setMail: (threadId: string, personId: string, token: string) =>
      store.setMail(threadId, personId, digestOf(token)),
  };
}
