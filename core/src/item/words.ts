import type { HandInWay, ItemKind } from './kind.ts';

export const KIND_WORDS: Record<ItemKind, string> = {
  assignment: 'assignment',
  test: 'test',
  discussion: 'discussion',
  reading: 'reading',
  project: 'project',
  practice: 'practice',
  meeting: 'meeting',
  lesson: 'lesson',
  trip: 'trip',
  reminder: 'reminder',
  dayOff: 'day off',
};

export const KIND_GROUP_WORDS: Record<ItemKind, string> = {
  assignment: 'Assignments',
  test: 'Tests',
  discussion: 'Discussions',
  reading: 'Reading',
  project: 'Projects',
  practice: 'Practice',
  meeting: 'Meetings',
  lesson: 'Lessons',
  trip: 'Trips',
  reminder: 'Reminders',
  dayOff: 'Days off',
};

export const HAND_IN_WORDS: Record<HandInWay, string> = {
  online: 'hand in online',
  paper: 'hand in on paper',
  mail: 'hand in by mail',
  inClass: 'hand in in class',
  nothing: 'nothing to hand in',
  unknown: 'how to hand in is not said',
};

/** Way in which something was handed in, after “handed in”. */
export const HANDED_IN_WORDS: Record<HandInWay, string> = {
  online: 'online',
  paper: 'on paper',
  mail: 'by mail',
  inClass: 'in class',
  nothing: 'without handing anything in',
  unknown: 'in a way nobody told',
};
