import { routes } from '@zephyrfield/core/api/routes';
import type { Mount } from '../http/mount.ts';
import type { ScheduleArchives } from './schedules.ts';

export function mountArchives(mount: Mount, archives: ScheduleArchives): void {
  mount.stream(routes.archiveSchedule, ({ caller, learner, res }) =>
    archives.pack(learner.id, caller.personId, (path) => {
      res.set({ 'Cache-Control': 'no-store', 'Content-Type': 'application/zip' });
      // Whoever breaks it off has had enough of it.
      return new Promise((done) =>
        res.download(path, 'schedule.zip', { cacheControl: false, dotfiles: 'allow' }, () => done()),
      );
    }),
  );
  mount(routes.lookAtArchive, ({ caller, learner, req }) =>
    archives.look(req, caller.personId, learner?.id ?? null),
  );
  mount(routes.restoreSchedule, async ({ caller, learner, req }) => ({
    id: await archives.restore(req, caller.personId, learner ?? null),
  }));
}
