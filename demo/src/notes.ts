import { randomUUID } from 'node:crypto';
import { DAY, HOUR } from '@zephyrfield/core/time/civil';
import type { Services } from '@zephyrfield/server/app';
import type { DemoClock } from './clock.ts';
import { toneOf } from './tone.ts';

/** Time a tone stands for a spoken note, in seconds. */
const SPOKEN = 3;

/** Gives what people have written to each other in the last weeks: to one, to three families at once, spoken, by mail. */
export async function writeNotes(
  { notes, crews, items }: Services,
  idOf: (person: string) => string,
  clock: DemoClock,
): Promise<void> {
  const begins = clock.now();
  const at = (daysBefore: number) => clock.set(begins - daysBefore * DAY + 2 * HOUR);
  const write = async (
    by: string,
    learnerIds: string[],
    text: string,
    more: { members?: string[]; item?: string; fileIds?: string[]; byMail?: boolean } = {},
  ) => {
    const { members = null, item, fileIds = [] } = more;
    const to = { learnerIds, members, item, recurrenceId: '' };
    return (await notes.write(idOf(by), to, { text, fileIds, key: randomUUID() }))[0]!;
  };
  const answer = (thread: string, by: string, text: string, byMail = false) =>
    notes.answer(thread, idOf(by), { text, fileIds: [], key: null, byMail });
  const read = (thread: string, by: string) => {
    const last = notes.thread(thread, idOf(by)).notes.at(-1)!;
    notes.mark(thread, idOf(by), { readTo: last.id });
  };

  at(19);
  const shed = await write(
    'anselm',
    ['juno'],
    'Juno began her **keel plan** in Study Hour today, without being asked.',
  );
  clock.advance(3 * HOUR);
  await answer(shed, 'maren', 'She told us at dinner. Thank you!', true);
  notes.mark(shed, idOf('maren'), { starred: true });
  read(shed, 'anselm');
  read(shed, 'juno');

  at(9);
  const trip = await write(
    'anselm',
    ['emeka', 'wren', 'solveig'],
    'We go out on the *Kittiwake* on Friday the 16th if the wind allows. Please send:\n\n- a warm jacket\n- the slip, signed',
  );
  read(trip, 'anselm');

  at(3);
  const spoken = await notes.takeFile(
    idOf('anselm'),
    { name: 'spoken.wav', seconds: SPOKEN },
    toneOf(SPOKEN),
  );
  const keel = items
    .between('juno', idOf('anselm'), begins - 30 * DAY, begins + 60 * DAY)
    .find((row) => row.occurrence.title === 'Keel plan');
  const member = crews.memberOf(idOf('juno'), 'juno')!.id;
  const said = await write('anselm', ['juno'], 'In words: the drawing first, the numbers after.', {
    members: [member],
    ...(keel && { item: keel.occurrence.itemId }),
    fileIds: [spoken.id],
  });
  clock.advance(HOUR);
  await answer(said, 'juno', 'Drawing is done. Numbers tomorrow?');

  at(1);
  const essay = await write(
    'maren',
    ['juno'],
    'Is half an hour a day enough for the letter from the lighthouse?',
  );
  clock.advance(HOUR);
  await answer(essay, 'anselm', 'Yes, from today on. I would begin with the weather in it.');
  read(essay, 'juno');
  clock.set(begins);
}
