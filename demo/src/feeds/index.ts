import type { CampusFeed } from '@zephyrfield/stand-ins/campus';
import { boatbuilding } from './boatbuilding.ts';
import { ceramics } from './ceramics.ts';
import { navigation } from './navigation.ts';
import { home, school } from './school.ts';
import { statistics } from './statistics.ts';
import { threeCourses } from './three-courses.ts';
import { tideWatch } from './tide-watch.ts';

/** Every feed of the campus. `origin` is where the campus is served, for the links in them. */
export const campusFeeds = (origin: string): CampusFeed[] => [
  boatbuilding(origin),
  navigation(origin),
  ceramics(origin),
  statistics(origin),
  threeCourses(origin),
  tideWatch(origin),
  school(origin),
  home(),
];
