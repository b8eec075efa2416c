import type { CampusEntry, CampusFeed } from '@zephyrfield/stand-ins/campus';
import { dayOf, local, teachingWeeks } from '../term.ts';

/** The half-scale dinghy, nine weeks long: what is due in which week, and by when. */
const DINGHY: [week: number, title: string, what: string][] = [
  [
    3,
    'Half-scale dinghy: choose the lines',
    'Choose one of the three hulls in the loft and say in half a page why it suits Skerrow’s chop.',
  ],
  [
    4,
    'Half-scale dinghy: table of offsets',
    'Measure the half-model at five stations and fill in the table of offsets.',
  ],
  [
    5,
    'Half-scale dinghy: lofting',
    'Loft the lines full size for the half-scale boat. Check that every curve is fair.',
  ],
  [6, 'Half-scale dinghy: moulds', 'Cut the three moulds and number them.'],
  [
    7,
    'Keel plan',
    'Draw a keel at 1:5 that the dinghy’s lines allow.\nSteps: measure, draw to scale, check against the half-model.\nAbout 3 h 30. The shed is open on Wednesdays from 15:30; ask Ms Tveit.',
  ],
  [
    8,
    'Half-scale dinghy: backbone set up',
    'Keel, stem and transom set up on the strongback, checked with a plumb line.',
  ],
  [10, 'Half-scale dinghy: first planks', 'Garboards and the first two planks, both sides.'],
  [12, 'Half-scale dinghy: planked', 'Hull planked and faired.'],
  [
    14,
    'Half-scale dinghy: launch report',
    'Two pages, with photographs: what went well, what you would do again, what leaked.',
  ],
];

const SHED_LOG = [
  'measuring tools',
  'edge tools and sharpening',
  'timber and its faults',
  'spiling',
  'bevels',
  'clamps and cramps',
  'fastenings',
  'steam bending',
  'bedding compound',
  'sanding and dust',
  'oars and spars',
  'paint and varnish',
  'rigging a mast',
  'launch day rules',
  'looking after tools',
];

/** Boatbuilding arrives as to-dos with due dates, progress and reminders. */
/** What Juno has not handed in, and the course knows it. */
const LATE = 'Half-scale dinghy: lofting';
const progressOf = (week: number): Pick<CampusEntry, 'status' | 'percent'> =>
  week < 6
    ? { status: 'COMPLETED', percent: 100 }
    : week === 6
      ? { status: 'IN-PROCESS', percent: 40 }
      : { status: 'NEEDS-ACTION', percent: 0 };

export function boatbuilding(origin: string): CampusFeed {
  const page = (id: string) => `${origin}/pages/boatbuilding/${id}`;
  const logs = teachingWeeks().map((week, i): CampusEntry => {
    const date = dayOf(week, 4);
    const past = week < 6;
    return {
      uid: `bb-log-${week}@skerrow.example`,
      component: 'todo',
      title: `Shed log ${i + 1}: ${SHED_LOG[i]}`,
      description: `One page in the shed log on ${SHED_LOG[i]}.\nUpload a photo of the page.`,
      due: local(date, '16:00'),
      url: page(`log-${week}`),
      categories: ['Assignment'],
      ...progressOf(past ? week : 7),
      alarms: ['-PT18H'],
    };
  });
  const dinghy = DINGHY.map(([week, title, what], i): CampusEntry => ({
    uid: `bb-dinghy-${i + 1}@skerrow.example`,
    component: 'todo',
    title,
    description: `${what}\nHand in on the course page: ${page(`dinghy-${i + 1}`)}`,
    due: local(dayOf(week, title === 'Keel plan' ? 1 : 5), '16:00'),
    url: page(`dinghy-${i + 1}`),
    categories: ['Project'],
    ...progressOf(title === LATE ? 6 : week),
    alarms: ['-P1D', '-PT3H'],
  }));
  return { path: 'boatbuilding', name: 'Boatbuilding', refresh: 'PT1H', entries: [...logs, ...dinghy] };
}
