import { routes } from '@zephyrfield/core/api/routes';
import type { Mount } from '../http/mount.ts';
import type { TableService } from './service.ts';

export function mountTable(mount: Mount, table: TableService): void {
  mount(routes.learnersTable, ({ caller, query }) =>
    table.table(caller.personId, Number(query.weeks), query.course ?? ''),
  );
  mount(routes.learnersDays, ({ caller, query }) =>
    table.days(caller.personId, query.learnerIds, query.from, query.count),
  );
  mount(routes.changeGroups, ({ caller, body }) => {
    table.putGroups(caller.personId, body.groups);
    return { ok: true as const };
  });
}
