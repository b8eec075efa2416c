import type { OwnItem } from '@zephyrfield/core/item/own';
import type { Services } from '@zephyrfield/server/app';
import type { DemoClock } from './clock.ts';
import { ZONE } from './term.ts';

const DAY = 86_400_000;

/** Who came into Juno’s crew when, and was let do what. */
const SINCE = [
  { daysBefore: 36, kind: 'invited', by: 'Maren Lindqvist', about: 'juno@skerrow.example', access: 'edit' },
  { daysBefore: 36, kind: 'came', by: 'Juno Lindqvist-Amadi', about: 'own', access: 'edit' },
  { daysBefore: 29, kind: 'invited', by: 'Maren Lindqvist', about: 'code', access: 'look' },
  { daysBefore: 28, kind: 'came', by: 'Anselm Okonjo', about: '', access: 'look' },
  { daysBefore: 12, kind: 'changed', by: 'Maren Lindqvist', about: 'Anselm Okonjo', access: 'edit' },
] as const;

const own = (title: string, kind: OwnItem['kind'], from: string, to: string | null): OwnItem => ({
  kind,
  handIn: 'nothing',
  title,
  place: '',
  details: '',
  when: { kind: 'instant', at: from, zone: ZONE },
  end: to === null ? null : { kind: 'instant', at: to, zone: ZONE },
  repeat: null,
  changes: [],
});

/** Gives what the people around Juno see of each other: a calendar that is hers alone, and an aunt who may come. */
export async function bringTogether(
  { people, crew, crews, calendars, own: writing }: Services,
  idOf: (person: string) => string,
  clock: DemoClock,
): Promise<void> {
  const now = clock.now();
  const learnerId = 'juno';
  crews.setOwn(learnerId, idOf('juno'));
  for (const { daysBefore, ...event } of SINCE)
    crews.note({ ...event, learnerId, at: now - daysBefore * DAY });
  const { id } = calendars.add({
    id: 'just-mine',
    learnerId,
    name: 'Just mine',
    kind: 'own',
    category: '',
    colour: 'slate',
    flag: { shape: 'drop', pattern: 'plain', letters: 'JM' },
    zone: ZONE,
    position: calendars.nextPosition(learnerId),
    madeBy: idOf('juno'),
    createdAt: now,
  });
  const writes = [
    own('Driftwood band, in the sail loft', 'meeting', '2026-10-21T16:30:00Z', '2026-10-21T17:30:00Z'),
    own('Driftwood band, in the sail loft', 'meeting', '2026-11-04T17:30:00Z', '2026-11-04T18:30:00Z'),
    own('Maren’s surprise: order the lantern', 'reminder', '2026-10-22T17:00:00Z', null),
  ].map((item) => ({ id: null, calendarId: id, item, version: 0 }));
  await writing.write(learnerId, writes, idOf('juno'));
  const juno = people.learnersOf(idOf('juno')).find((l) => l.id === learnerId)!;
  crew.keepFrom(
    { ...calendars.byId(id)!, audience: null },
    { members: [], others: 'busy' },
    { personId: idOf('juno'), learner: juno },
  );
  const invited = { way: 'code', access: 'look', asLearner: false, days: 14, uses: 1 } as const;
  await crew.invite({ ...invited, learnerIds: ['juno', 'tobias'] }, idOf('maren'));
}
