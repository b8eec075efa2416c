import type { CampusEntry, CampusFeed } from '@zephyrfield/stand-ins/campus';
import { dayOf, inUtc, teachingWeeks } from '../term.ts';

const MONDAYS = [
  'Reading a chart',
  'Latitude and longitude',
  'Chart symbols',
  'The magnetic compass',
  'Variation and deviation',
  'Tidal streams',
  'A fix from three bearings',
  'Dead reckoning',
  'Leading lines',
  'Depths and contours',
  'Lights and their rhythms',
  'Passage plan, first leg',
  'Passage plan, second leg',
  'Fog and radar',
  'Collision rules',
];

/** Ocean Navigation arrives as entries of no length at 23:59, written in UTC. */
export function navigation(origin: string): CampusFeed {
  const page = (id: string) => `${origin}/pages/ocean-navigation/${id}`;
  const entry = (
    uid: string,
    title: string,
    date: string,
    description: string,
    html?: string,
  ): CampusEntry => ({
    uid: `${uid}@skerrow.example`,
    component: 'event',
    title,
    description,
    ...(html ? { html } : {}),
    start: inUtc(date, '23:59'),
    end: inUtc(date, '23:59'),
    url: page(uid),
  });
  const exercises = teachingWeeks().flatMap((week, i) => [
    entry(
      `on-chart-${i + 1}`,
      `Chart exercise ${i + 1}: ${MONDAYS[i]!.toLowerCase()}`,
      dayOf(week, 1),
      `Work through sheet ${i + 1} with the school’s chart of Skerrow Sound.\nAbout 30 minutes. Open it in the chart room: ${page(`on-chart-${i + 1}`)}`,
    ),
    ...(week < 14
      ? [
          entry(
            `on-tide-${i + 1}`,
            `Tide table exercise ${2 * i + 1}`,
            week === 6 ? dayOf(week, 2) : dayOf(week, 3),
            'Work out the height of tide at the slipway. Opens the chart room page.',
            `<p>Work out the <b>height of tide</b> at the slipway for the times on the sheet.</p><ul><li>Use the tables for Skerrow Harbour.</li><li>Correct for summer time.</li></ul><p>About 20 minutes. <a href="${page(`on-tide-${i + 1}`)}">Open the chart room page</a></p>`,
          ),
        ]
      : []),
  ]);
  const essay = entry(
    'on-essay',
    'Essay: why harbours silt up',
    dayOf(7, 7),
    'Write 1,200 words on why harbours silt up and what Skerrow has tried against it. Use at least three of the sources on the course page.\nStart early: a plan, then a draft, then a last polish.',
  );
  return { path: 'ocean-navigation', name: 'ON · Ocean Navigation (autumn)', entries: [...exercises, essay] };
}
