import type { OwnItem } from '@zephyrfield/core/item/own';
import type { FLAG_SHAPES } from '@zephyrfield/core/item/flag';
import type { CalendarView } from '@zephyrfield/core/api/schemas';
import { DAY, formatDate, formatInstant, parseDate, parseLocal } from '@zephyrfield/core/time/civil';
import { ianaZone } from '@zephyrfield/core/time/zone';
import type { Services } from '@zephyrfield/server/app';
import { putAccount } from '@zephyrfield/server/accounts/put-account';
import { emailOf } from './people.ts';
import { ZONE, dayOf, teachingWeeks } from './term.ts';

/** The learners Anselm sees beside Juno and Tobias, with what each has in hand: three courses of weekly work. */
const COURSES: Readonly<Record<string, readonly (readonly [name: string, letters: string, work: string])[]>> =
  {
    ottilie: [
      ['Harbour History', 'HH', 'Source card'],
      ['Number Workshop', 'NW', 'Surveys quiz'],
      ['Choir', 'CH', 'Voice part'],
    ],
    emeka: [
      ['Rope and Rigging', 'RR', 'Splice'],
      ['Number Workshop', 'NW', 'Chance sheet'],
      ['Weather Lab', 'WL', 'Cloud log'],
    ],
    wren: [
      ['Letter Writing', 'LW', 'Letter'],
      ['Harbour History', 'HH', 'Source card'],
      ['Weather Lab', 'WL', 'Cloud log'],
    ],
    idris: [
      ['Ceramics for beginners', 'CB', 'Glaze notes'],
      ['Number Workshop', 'NW', 'Surveys quiz'],
      ['Reading circle', 'RC', 'Chapter'],
    ],
    solveig: [
      ['Weather Lab', 'WL', 'Lab log'],
      ['Rope and Rigging', 'RR', 'Splice'],
      ['Choir', 'CH', 'Voice part'],
    ],
    bartosz: [
      ['Norwegian for beginners', 'NB', 'Word list'],
      ['Reading circle', 'RC', 'Chapter'],
      ['Number Workshop', 'NW', 'Chance sheet'],
    ],
  };
/** How many of the last pieces of work each has left open: who struggles, and who is on their way. */
const LEFT: Readonly<Record<string, number>> = { emeka: 2, wren: 1 };
const FOLLOW = ['ottilie', 'emeka', 'wren', 'idris', 'solveig', 'bartosz'];
type FlagShape = (typeof FLAG_SHAPES)[number];
const SHAPES: readonly FlagShape[] = ['pennon', 'lozenge', 'banner'];
const TINTS = ['deep', 'olive', 'plum'] as const;

const zone = ianaZone(ZONE)!;
const at = (day: string, time: string) =>
  ({
    kind: 'instant',
    at: formatInstant(zone.toInstant(parseLocal(`${day}T${time}:00`))),
    zone: ZONE,
  }) as const;
const bare = { place: '', details: '', end: null, repeat: null, changes: [] } as const;

const work = (title: string, day: string, kind: OwnItem['kind'] = 'assignment'): OwnItem => ({
  ...bare,
  changes: [],
  kind,
  handIn: kind === 'test' ? 'inClass' : kind === 'practice' ? 'nothing' : 'online',
  title,
  when: at(day, kind === 'test' ? '10:00' : '18:00'),
});

/** Every Monday and Wednesday from a day to another, but for breaks. */
function studyHour(first: string, last: string, off: readonly string[]): OwnItem {
  return {
    ...bare,
    changes: [],
    kind: 'meeting',
    handIn: 'nothing',
    title: 'Study Hour',
    place: 'The sail loft',
    when: at(first, '15:30'),
    end: at(first, '16:30'),
    repeat: {
      rule: `FREQ=WEEKLY;BYDAY=MO,WE;UNTIL=${last.replaceAll('-', '')}T225959Z`,
      except: off.map((day) => at(day, '15:30')),
    },
  };
}

const brief = (aim: string, steps: string, help: string) => ({
  aim,
  steps,
  time: 'An hour together, and half an hour at home.',
  help,
  adjustments: 'Say it, draw it or type it: all three are fine.',
  good: '',
  ask: 'Anselm, in the sail loft',
  questions: '',
});

/** What the author of Study Hour wants done beside the hours themselves. */
const TASKS: readonly (readonly [title: string, week: number, weekday: number])[] = [
  ['Pack list for the week', 2, 5],
  ['Ask one question in class', 4, 4],
  ['Half a page on what went well', 6, 5],
  ['Plan for the break', 8, 4],
  ['Two evenings without a screen', 11, 4],
  ['What I will do otherwise', 14, 5],
];

/** Families of three of them, who look into what they are sent. */
const FAMILIES: readonly { learner: string; id: string; name: string; opens: number }[] = [
  { learner: 'emeka', id: 'ingrid', name: 'Ingrid Sørlie', opens: 3 },
  { learner: 'wren', id: 'paolo', name: 'Paolo Castellane', opens: 1 },
  { learner: 'solveig', id: 'amina', name: 'Amina Achterberg', opens: 12 },
];

/** Makes the families’ accounts, all with one password, and brings them into their learners’ crews. */
export async function bringFamilies(
  { auth, people }: Services,
  passwordHash: string,
  now: number,
): Promise<void> {
  for (const { learner, id, name } of FAMILIES) {
    const personId = await putAccount(auth, { name, email: emailOf({ id }), passwordHash });
    people.confirm(personId, emailOf({ id }));
    people.transaction(() =>
      people.join({ personId, learnerId: learner, access: 'keep', joinedAt: now - 35 * DAY }),
    );
  }
}

/** They have opened the last few things that were due, and some that come. */
function openSome({ people, items, published }: Services, now: number): void {
  for (const { learner, id, opens } of FAMILIES) {
    const personId = people.byEmail(emailOf({ id }))!.id;
    const ahead = items.between(learner, personId, now - 2 * DAY, now + 12 * DAY);
    for (const { occurrence } of ahead.slice(0, opens))
      published.open(occurrence.itemId, personId, now - DAY);
  }
}

/** Fills what a support teacher has: six learners’ work, a calendar of their own that families follow, and last spring’s. */
export async function furnishDesk(services: Services, teacher: string, now: number): Promise<void> {
  for (const [n, [learnerId, courses]] of Object.entries(COURSES).entries())
    await giveWork(services, learnerId, courses, n, teacher, now);
  openSome(services, now);
  const { people, publish, published, own: writing, briefs } = services;
  const own = 'anselm';
  people.transaction(() => {
    people.addLearner({ id: own, name: 'Anselm Okonjo', zone: ZONE, createdAt: now, personId: teacher });
    people.join({
      personId: teacher,
      learnerId: own,
      access: 'keep',
      position: 20,
      joinedAt: now - 28 * DAY,
    });
  });
  const autumn = addCalendar(services, own, 'Study Hour', 'SH', 'burgee', 'pine', teacher, now);
  const spring = addCalendar(services, own, 'Study Hour, last spring', 'LS', 'burgee', 'slate', teacher, now);
  const off = ['2026-10-26', '2026-10-28'];
  const put = async (calendarId: string, items: readonly OwnItem[]) =>
    writing.write(
      own,
      items.map((item) => ({ id: null, calendarId, item, version: 0 })),
      teacher,
    );
  const [hour] = await put(autumn, [
    studyHour('2026-09-07', '2026-12-16', off),
    ...TASKS.map(([title, week, day]) => work(title, dayOf(week, day), 'practice')),
  ]);
  briefs.write(hour!.id, {
    recurrenceId: '',
    brief: brief(
      'Begin what is hardest to begin.',
      '- choose one thing\n- say the first step aloud\n- begin',
      'Come up to the loft, or ask by a note.',
    ),
    alike: false,
  });
  const springDay = (day: string) => formatDate(parseDate(day) - 231);
  await put(spring, [
    studyHour('2026-01-19', '2026-04-29', ['2026-02-16', '2026-02-18']),
    ...TASKS.map(([title, week, day]) => work(title, springDay(dayOf(week, day)), 'practice')),
  ]);
  services.table.putGroups(teacher, [
    { name: 'Tuesday group', learnerIds: ['juno', 'emeka', 'wren', 'solveig'] },
    { name: 'reading group', learnerIds: ['tobias', 'idris', 'bartosz'] },
  ]);
  publish.publish(autumn, FOLLOW, { personId: teacher });
  for (const { id } of published.offersOf(autumn)) await publish.answer(id, { take: true, reminders: true });
  await offerTalks(services, teacher);
  // Juno’s family has not answered yet.
  published.addOffer({
    id: 'study-hour-for-juno',
    calendarId: autumn,
    learnerId: 'juno',
    offeredBy: teacher,
    state: 'open',
    createdAt: now - DAY,
  });
}

/** Thursdays in the sail loft, of which two are taken. */
async function offerTalks({ openTimes, people }: Services, teacher: string): Promise<void> {
  const offered = await openTimes.offer(teacher, {
    ...{ title: 'A talk', place: 'The sail loft', details: '', daysOff: [] },
    ...{ firstDay: '2026-10-08', lastDay: '2026-10-22', weekdays: [4], from: 15 * 60 + 30, to: 17 * 60 },
    ...{ length: 15, pause: 0, places: 1, each: 1, namesShown: false, until: 24 * 60 },
    learnerIds: ['tobias', 'emeka', 'wren', 'solveig'],
    key: 'talks-of-autumn',
  });
  const take = (n: number, learner: string, family: string, word: string) =>
    openTimes.take(offered.slots[n]!.id, learner, people.byEmail(emailOf({ id: family }))!.id, word);
  take(1, 'emeka', 'ingrid', 'He would like to talk about the splice.');
  take(3, 'solveig', 'amina', '');
}

function addCalendar(
  { calendars }: Services,
  learnerId: string,
  name: string,
  letters: string,
  shape: FlagShape,
  colour: CalendarView['colour'],
  madeBy: string,
  now: number,
): string {
  return calendars.add({
    id: `${learnerId}-${letters.toLowerCase()}`,
    learnerId,
    name,
    kind: learnerId === 'anselm' ? 'group' : 'course',
    category: '',
    colour,
    flag: { shape, pattern: 'stripe', letters },
    zone: ZONE,
    position: calendars.nextPosition(learnerId),
    madeBy,
    createdAt: now,
  }).id;
}

/** A learner’s weekly work over the term, what is past of it finished but for the last few. */
async function giveWork(
  services: Services,
  learnerId: string,
  courses: (typeof COURSES)[string],
  n: number,
  teacher: string,
  now: number,
): Promise<void> {
  const { own: writing, items } = services;
  const ids: { id: string; due: number }[] = [];
  for (const [c, [name, letters, title]] of courses.entries()) {
    const calendarId = addCalendar(services, learnerId, name, letters, SHAPES[c]!, TINTS[c]!, teacher, now);
    const list = teachingWeeks(1, 15).flatMap((week, i) => {
      const day = dayOf(week, 1 + ((n + c * 2 + 1) % 5));
      const isTest = title.includes('quiz') || (c === 1 && week % 5 === 2);
      const one = work(`${title} ${i + 1}`, day, isTest ? 'test' : 'assignment');
      const more =
        week % 4 === (n + c) % 4
          ? [work(`${name}: project, part ${Math.ceil(week / 4)}`, dayOf(week, 5), 'project')]
          : [];
      return [one, ...more];
    });
    const written = await writing.write(
      learnerId,
      list.map((item) => ({ id: null, calendarId, item, version: 0 })),
      teacher,
    );
    written.forEach(({ id }, i) => {
      const { when } = list[i]!;
      if (when?.kind === 'instant') ids.push({ id, due: Date.parse(when.at) });
    });
  }
  const past = ids.filter(({ due }) => due < now + DAY).sort((a, b) => a.due - b.due);
  const done = past.slice(0, past.length - (LEFT[learnerId] ?? 0));
  items.transaction(() => {
    for (const { id: itemId, due } of done)
      items.writeLayer(
        { itemId, recurrenceId: '', finishedAt: due - 5 * 3_600_000, finishedBy: null, updatedAt: due },
        0,
      );
  });
}
