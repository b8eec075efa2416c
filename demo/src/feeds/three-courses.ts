import type { CampusEntry, CampusFeed } from '@zephyrfield/stand-ins/campus';
import { dayOf, inUtc, local, teachingWeeks } from '../term.ts';

/** The Food Chemistry report, which the school's own feed has a second time. */
/** In this week the letter is an essay, due in the middle of October. */
const ESSAY_WEEK = 7;

export const REPORT = { title: 'Emulsion report', date: dayOf(7, 5), time: '23:59' };

const WORDS = [
  'harbour and sea',
  'fjord and coast',
  'weather',
  'food',
  'family',
  'numbers over 100',
  'the house',
  'clothes',
  'school',
  'travel',
  'the body',
  'work',
  'the forest',
  'winter',
  'the feast',
];
const MIXES = [
  'Kitchen noises',
  'One minute of rain',
  'Footsteps',
  'A door, five ways',
  'Harbour at dawn',
  'Voice and room',
  'Foghorn',
  'Silence with a clock',
  'Engine room',
  'Ice',
  'A film without its sound',
  'Rewound',
  'Showcase mix',
  'Credits',
  'Term portfolio',
];

/** Norwegian, Sound Design and Food Chemistry share one link, told apart by a tag at the end of the title. */
export function threeCourses(origin: string): CampusFeed {
  const weeks = teachingWeeks();
  const entry = (
    uid: string,
    title: string,
    tag: string,
    date: string,
    time: string,
    description: string,
  ): CampusEntry => ({
    uid: `${uid}@skerrow.example`,
    component: 'event',
    title: `${title} [${tag}]`,
    description,
    start: inUtc(date, time),
    end: inUtc(date, time),
    url: `${origin}/pages/combined/${uid}`,
  });
  const norwegian = weeks.flatMap((week, i) => [
    entry(
      `no-words-${i + 1}`,
      `Word list: ${WORDS[i]}`,
      'Norwegian',
      dayOf(week, 2),
      '08:50',
      'Learn the twenty words by heart; nothing to hand in.',
    ),
    ...(week % 2
      ? [
          entry(
            `no-letter-${i + 1}`,
            week === ESSAY_WEEK ? 'Essay: a letter from the lighthouse' : `Letter ${Math.ceil((i + 1) / 2)}`,
            'Norwegian',
            dayOf(week, 5),
            '23:59',
            week === ESSAY_WEEK
              ? 'An essay of 900 words: the keeper writes home in the first winter. Upload it.'
              : 'A letter of 120 words to the class in Vikøy. Upload it.',
          ),
        ]
      : []),
  ]);
  const sound = weeks.map((week, i) =>
    entry(
      `sd-mix-${i + 1}`,
      `Mixdown: ${MIXES[i]!.toLowerCase()}`,
      'Sound Design',
      dayOf(week, 7),
      '22:00',
      'Upload a stereo file and two lines on what you were after.',
    ),
  );
  const food = weeks.flatMap((week, i) => [
    entry(
      `fc-log-${i + 1}`,
      `Lab log ${i + 1}`,
      'Food Chemistry',
      dayOf(week, 5),
      '18:00',
      'Upload the log of this week’s kitchen lab.',
    ),
    ...(week === 7
      ? [
          entry(
            'fc-report',
            REPORT.title,
            'Food Chemistry',
            REPORT.date,
            REPORT.time,
            'Three pages on why mayonnaise holds together, with your own measurements.',
          ),
        ]
      : []),
  ]);
  const labs: CampusEntry = {
    uid: 'fc-lab@skerrow.example',
    component: 'event',
    title: 'Kitchen lab [Food Chemistry]',
    place: 'Kitchen lab',
    start: local(dayOf(1, 5), '11:00'),
    end: local(dayOf(1, 5), '12:40'),
    rule: 'FREQ=WEEKLY;COUNT=16',
    except: [local(dayOf(9, 5), '11:00')],
  };
  return {
    path: 'my-courses',
    name: 'My courses',
    key: 'juno-4f2a9c',
    entries: [...norwegian, ...sound, ...food, labs],
  };
}
