import type { CampusEntry, CampusFeed } from '@zephyrfield/stand-ins/campus';
import { dayOf, local, teachingWeeks } from '../term.ts';

/** A name for the time zone that office programs write and the time-zone database does not have. */
const OFFICE_ZONE = 'GMT Standard Time';
const QUIZZES = [
  'Kinds of data',
  'Charts that mislead',
  'Mean, median, mode',
  'Spread',
  'Sampling',
  'Surveys',
  'Chance and counting',
  'Two-way tables',
  'Scatter and trend',
  'Correlation',
  'Normal or not',
  'Confidence',
  'A fair test',
  'Reading a report',
  'Everything so far',
];

/**
 * Statistics Workshop arrives with each test as two entries, opens and closes, under a zone name of its own.
 */
export function statistics(origin: string): CampusFeed {
  const weeks = teachingWeeks();
  const edge = (uid: string, title: string, date: string, time: string, url: string): CampusEntry => ({
    uid: `${uid}@skerrow.example`,
    component: 'event',
    title,
    start: local(date, time, OFFICE_ZONE),
    end: local(date, time, OFFICE_ZONE),
    url,
    description: 'Open book, one go, 25 minutes once begun.',
  });
  const quizzes = weeks.flatMap((week, i) => {
    const url = `${origin}/pages/statistics/quiz-${i + 1}`;
    const title = week === 8 ? 'Statistics mid-term test' : `${QUIZZES[i]} quiz`;
    const weekday = week === 8 ? 2 : 3;
    return [
      edge(`sw-quiz-${i + 1}-open`, `${title} opens`, dayOf(week, weekday), '08:00', url),
      edge(`sw-quiz-${i + 1}-close`, `${title} closes`, dayOf(week, weekday), '20:00', url),
    ];
  });
  const sheets = weeks
    .filter((w) => w % 2 === 0)
    .map((week, i) => ({
      ...edge(
        `sw-sheet-${i + 1}`,
        `Workshop sheet ${i + 1}`,
        dayOf(week, 5),
        '18:00',
        `${origin}/pages/statistics/sheet-${i + 1}`,
      ),
      description: 'Upload a photo of your working, not only the answers.',
    }));
  return { path: 'statistics-workshop', name: 'Statistics Workshop', entries: [...quizzes, ...sheets] };
}
