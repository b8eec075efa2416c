import type { CampusFeed } from '@zephyrfield/stand-ins/campus';
import { dayOf, local } from '../term.ts';

/** Tide Watch, a club: weekly at low tide, with skipped and moved dates. */
export function tideWatch(origin: string): CampusFeed {
  const room = { href: `${origin}/pages/join/tide-watch`, label: 'Join from home' };
  const weekly = {
    uid: 'tw-slipway@skerrow.example',
    component: 'event' as const,
    title: 'Slipway reading, low tide',
    description: 'Read the gauge, note wind and cloud, send the figures to the log. Wellingtons!',
    place: 'Slip 2',
    conference: room,
    categories: ['Club'],
  };
  const moved = (week: number, weekday: number, from: string, to: string) => ({
    ...weekly,
    recurrenceId: local(dayOf(week, 2), '17:00'),
    start: local(dayOf(week, weekday), from),
    end: local(dayOf(week, weekday), to),
  });
  return {
    path: 'tide-watch',
    name: 'Tide Watch club',
    entries: [
      {
        ...weekly,
        start: local(dayOf(1, 2), '17:00'),
        end: local(dayOf(1, 2), '17:40'),
        rule: 'FREQ=WEEKLY;BYDAY=TU;COUNT=16',
        except: [local(dayOf(4, 2), '17:00'), local(dayOf(9, 2), '17:00'), local(dayOf(16, 2), '17:00')],
      },
      moved(7, 3, '17:20', '18:00'),
      moved(11, 6, '09:30', '10:30'),
      {
        uid: 'tw-night@skerrow.example',
        component: 'event',
        title: 'Spring tide night watch',
        description: 'Torches, warm clothes, a parent’s note.',
        place: 'Slip 2',
        start: local(dayOf(8, 5), '21:30'),
        end: local(dayOf(8, 5), '23:00'),
      },
      {
        uid: 'tw-data@skerrow.example',
        component: 'event',
        title: 'Tide log: send the October figures',
        description: 'Send the month’s figures by e-mail to the harbour office.',
        start: local(dayOf(10, 1), '20:00'),
        end: local(dayOf(10, 1), '20:00'),
        categories: ['Assignment'],
      },
    ],
  };
}
