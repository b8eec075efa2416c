import type { CampusEntry, CampusFeed } from '@zephyrfield/stand-ins/campus';
import { dayOf, inUtc, local, nextDay, wholeDay } from '../term.ts';
import { REPORT } from './three-courses.ts';

const TIMETABLE: [weekday: number, from: string, to: string, title: string, room: string][] = [
  [1, '09:10', '10:50', 'Lesson: Boatbuilding', 'Boat shed'],
  [1, '11:10', '12:00', 'Lesson: Ocean Navigation', 'Chart room'],
  [2, '09:10', '10:00', 'Lesson: Statistics', 'Room 14'],
  [2, '10:10', '11:50', 'Lesson: Ceramics', 'Studio'],
  [3, '09:10', '10:50', 'Lesson: Boatbuilding', 'Boat shed'],
  [3, '13:00', '13:50', 'Lesson: Norwegian', 'Room 3'],
  [3, '14:10', '15:20', 'Lesson: Sound Design', 'Sound lab'],
  [4, '09:10', '10:00', 'Lesson: Ocean Navigation', 'Chart room'],
  [4, '10:10', '11:50', 'Lesson: Ceramics', 'Studio'],
  [5, '09:10', '10:00', 'Lesson: Statistics', 'Room 14'],
];

/**
 * The school's own feed: breaks and days off as bars, what everybody has to know, and the timetable with
 * rooms.
 */
export function school(origin: string): CampusFeed {
  const days = (uid: string, title: string, date: string, length = 1): CampusEntry => ({
    uid: `${uid}@skerrow.example`,
    component: 'event',
    title,
    start: wholeDay(date),
    end: nextDay(date, length),
  });
  const timetable = TIMETABLE.map(([weekday, from, to, title, room], i): CampusEntry => ({
    uid: `sh-lesson-${i + 1}@skerrow.example`,
    component: 'event',
    title,
    place: room,
    start: local(dayOf(1, weekday), from),
    end: local(dayOf(1, weekday), to),
    rule: 'FREQ=WEEKLY;COUNT=16',
    except: [local(dayOf(9, weekday), from)],
  }));
  return {
    path: 'school',
    name: 'Skerrow Harbour School',
    entries: [
      days('sh-term', 'Autumn term begins', dayOf(1, 1)),
      days('sh-settling', 'Settling-in week', dayOf(1, 1), 5),
      days('sh-studio', 'Studio week', dayOf(6, 1), 5),
      days('sh-regatta-week', 'Regatta week', dayOf(11, 1), 5),
      days('sh-showcase', 'Showcase week', dayOf(15, 1), 5),
      days('sh-break', 'Mid-term break', dayOf(9, 1), 5),
      days('sh-staff', 'Day off: staff training', dayOf(12, 5)),
      days('sh-end', 'Christmas holidays', dayOf(16, 6), 16),
      {
        uid: 'sh-fire@skerrow.example',
        component: 'event',
        title: 'Fire drill',
        start: local(dayOf(6, 4), '11:00'),
        end: local(dayOf(6, 4), '11:20'),
      },
      {
        uid: 'sh-open@skerrow.example',
        component: 'event',
        title: 'Open evening',
        place: 'Hall',
        start: local(dayOf(7, 4), '18:30'),
        end: local(dayOf(7, 4), '20:30'),
      },
      {
        uid: 'sh-regatta@skerrow.example',
        component: 'event',
        title: 'Regatta day',
        place: 'Inner harbour',
        start: local(dayOf(11, 6), '10:00'),
        end: local(dayOf(11, 6), '16:00'),
      },
      {
        uid: 'sh-report@skerrow.example',
        component: 'event',
        title: REPORT.title,
        start: inUtc(REPORT.date, REPORT.time),
        end: inUtc(REPORT.date, REPORT.time),
        url: `${origin}/pages/school/report`,
      },
      ...timetable,
    ],
  };
}

/** Juno's own things at home, kept in a calendar program of the family's. */
export function home(): CampusFeed {
  return {
    path: 'home',
    name: 'Home',
    key: 'lindqvist-amadi-71',
    entries: [
      {
        uid: 'hm-cello@skerrow.example',
        component: 'event',
        title: 'Cello lesson',
        place: 'Mr Pereira’s',
        start: local(dayOf(1, 4), '15:30'),
        end: local(dayOf(1, 4), '16:15'),
        rule: 'FREQ=WEEKLY;COUNT=16',
        except: [local(dayOf(9, 4), '15:30')],
      },
      {
        uid: 'hm-hens@skerrow.example',
        component: 'event',
        title: 'Feed the neighbour’s hens',
        start: local(dayOf(1, 7), '16:00'),
        end: local(dayOf(1, 7), '16:30'),
        rule: 'FREQ=WEEKLY;INTERVAL=2;COUNT=8',
      },
      {
        uid: 'hm-dentist@skerrow.example',
        component: 'event',
        title: 'Dentist',
        place: 'Quay Street',
        start: local(dayOf(7, 1), '16:40'),
        end: local(dayOf(7, 1), '17:10'),
      },
      {
        uid: 'hm-pip@skerrow.example',
        component: 'event',
        title: 'Cousin Pip’s birthday',
        start: wholeDay(dayOf(8, 6)),
        end: nextDay(dayOf(8, 6)),
        rule: 'FREQ=YEARLY',
      },
    ],
  };
}
