import { routes } from '@zephyrfield/core/api/routes';
import type { Mount } from '../http/mount.ts';
import type { ScheduleArchives } from './schedules.ts';

export function mountArchives(mount: Mount, archives: ScheduleArchives): void {
  mount.stream(routes.archiveSchedule, async ({ caller, learner, res }) => {
    const { path, done } = await archives.pack(learner.id, caller.personId);
    res.set({ 'Cache-Control': 'no-store', 'Content-Type': 'application/zip' });
    // However it ends, the archive is let go of.
    res.download(path, 'schedule.zip', { cacheControl: false, dotfiles: 'allow' }, done);
  });
  mount(routes.lookAtArchive, ({ caller, learner, req }) =>
    archives.look(req, caller.personId, learner?.id ?? null),
  );
  mount(routes.restoreSchedule, async ({ caller, learner, req }) => ({
    id: await archives.restore(req, caller.personId, learner ?? null),
  }));
}
