import { routes } from '@zephyrfield/core/api/routes';
import { sendFileOf } from '../http/send-file.ts';
import type { Mount } from '../http/mount.ts';
import type { NoteService } from './service.ts';

export function mountNotes(mount: Mount, notes: NoteService): void {
  mount(routes.noteThreads, ({ caller, query }) => notes.list(caller.personId, query));
  mount(routes.noteThread, ({ caller, params }) => notes.thread(params.id, caller.personId));
  mount(routes.itemThreads, ({ caller, params }) => notes.ofItem(params.id, caller.personId));
  mount(routes.notePeople, ({ caller, learner, query }) =>
    notes.whomFor(learner.id, query.item, caller.personId),
  );
  mount(routes.writeNote, async ({ caller, body }) => ({
    threads: await notes.write(caller.personId, body, body),
  }));
  mount(routes.answerNote, ({ caller, params, body }) => notes.answer(params.id, caller.personId, body));
  mount(routes.changeNote, ({ caller, params, body }) =>
    notes.change(Number(params.id), caller.personId, body.text),
  );
  mount(routes.markThread, ({ caller, params, body }) => {
    notes.mark(params.id, caller.personId, body);
    return { ok: true as const };
  });
  mount(routes.sendNoteFile, ({ caller, query, body }) => notes.takeFile(caller.personId, query, body));
  mount.stream(routes.noteFileBytes, async ({ params, req, res }) =>
    sendFileOf(await notes.file(params.id), req, res),
  );
}
