import type { CampusEntry, CampusFeed } from '@zephyrfield/stand-ins/campus';
import { dayOf, nextDay, teachingWeeks, wholeDay } from '../term.ts';

const TUESDAYS = [
  'Pinch pots, pair',
  'Coil vessel, sketch',
  'Coil vessel, built',
  'Slab box, template',
  'Slab box, built',
  'Glaze test tiles',
  'Throwing: five cylinders',
  'Throwing: the best cylinder',
  'Handles, six of a kind',
  'Slip and sgraffito tile',
  'Teapot, drawing',
  'Teapot, parts',
  'Teapot, joined',
  'Showcase label',
  'Kiln log, whole term',
];

/**
 * Ceramics Studio arrives as all-day entries; everything is handed in on paper or on the shelf in the studio.
 */
export function ceramics(origin: string): CampusFeed {
  const entry = (
    uid: string,
    title: string,
    date: string,
    description: string,
    place: string,
  ): CampusEntry => ({
    uid: `${uid}@skerrow.example`,
    component: 'event',
    title,
    description,
    place,
    start: wholeDay(date),
    end: nextDay(date),
    categories: ['Studio work'],
  });
  const weeks = teachingWeeks();
  const pieces = weeks.map((week, i) =>
    entry(
      `ce-piece-${i + 1}`,
      TUESDAYS[i]!,
      dayOf(week, 2),
      `Leave it on the shelf in the studio by the end of the lesson, with your name on the base. Bring the log.\nWhat it should look like: ${origin}/pages/ceramics/piece-${i + 1}`,
      'Studio, shelf B',
    ),
  );
  const sketchbook = weeks
    .slice(0, 12)
    .map((week, i) =>
      entry(
        `ce-sketch-${i + 1}`,
        `Sketchbook, pages ${2 * i + 2} to ${2 * i + 3}`,
        dayOf(week, 4),
        'On paper, in the studio. Drawings from things you can hold; no copies from a screen.',
        'Studio',
      ),
    );
  return { path: 'ceramics-studio', name: 'Ceramics Studio', entries: [...pieces, ...sketchbook] };
}
