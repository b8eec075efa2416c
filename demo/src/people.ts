import type { Access, FollowRequest } from '@zephyrfield/core/api/schemas';
import type { CampusEntry } from '@zephyrfield/stand-ins/campus';
import { local, wholeDay } from './term.ts';

export interface DemoPerson {
  id: string;
  name: string;
  role: string;
  /** Learners they see, by id, with what they may do */
  sees: [learner: string, access: Access][];
}

/** Everybody made up; Tobias and the six others have no account. */
export const LEARNERS = [
  { id: 'juno', name: 'Juno Lindqvist-Amadi' },
  { id: 'tobias', name: 'Tobias Lindqvist-Amadi' },
  { id: 'ottilie', name: 'Ottilie Brannagh' },
  { id: 'emeka', name: 'Emeka Sørlie' },
  { id: 'wren', name: 'Wren Castellane' },
  { id: 'idris', name: 'Idris Halloran' },
  { id: 'solveig', name: 'Solveig Achterberg' },
  { id: 'bartosz', name: 'Bartosz Nyambe' },
] as const;

export const PEOPLE: readonly DemoPerson[] = [
  { id: 'juno', name: 'Juno Lindqvist-Amadi', role: 'learner, 15', sees: [['juno', 'edit']] },
  {
    id: 'maren',
    name: 'Maren Lindqvist',
    role: 'family',
    sees: [
      ['juno', 'keep'],
      ['tobias', 'keep'],
    ],
  },
  {
    id: 'anselm',
    name: 'Anselm Okonjo',
    role: 'support teacher',
    sees: LEARNERS.map((l) => [l.id, l.id === 'juno' || l.id === 'tobias' ? 'edit' : 'look']),
  },
];

export const emailOf = (person: { id: string }) => `${person.id}@skerrow.example`;

/** Everybody's in the demo, where signing in is a click anyway. */
export const DEMO_PASSWORD = 'skerrow-harbour-demo';

/** The links that are followed when the demo begins. Tide Watch is left for the visitor to follow. */
export const FOLLOWED: readonly {
  learner: string;
  path: string;
  as: Pick<FollowRequest, 'name' | 'kind' | 'colour' | 'flag'> & Partial<Pick<FollowRequest, 'split'>>;
}[] = [
  {
    learner: 'juno',
    path: 'boatbuilding',
    as: {
      name: 'Boatbuilding',
      kind: 'course',
      colour: 'rust',
      flag: { shape: 'pennon', pattern: 'bar', letters: 'BB' },
    },
  },
  {
    learner: 'juno',
    path: 'ocean-navigation',
    as: {
      name: 'Ocean Navigation',
      kind: 'course',
      colour: 'deep',
      flag: { shape: 'swallowtail', pattern: 'cross', letters: 'ON' },
    },
  },
  {
    learner: 'juno',
    path: 'ceramics-studio',
    as: {
      name: 'Ceramics Studio',
      kind: 'course',
      colour: 'rose',
      flag: { shape: 'square', pattern: 'dot', letters: 'CE' },
    },
  },
  {
    learner: 'juno',
    path: 'statistics-workshop',
    as: {
      name: 'Statistics Workshop',
      kind: 'course',
      colour: 'violet',
      flag: { shape: 'guidon', pattern: 'chevron', letters: 'SW' },
    },
  },
  {
    learner: 'juno',
    path: 'my-courses',
    as: {
      name: 'My courses',
      kind: 'course',
      colour: 'pine',
      flag: { shape: 'burgee', pattern: 'stripe', letters: 'NSF' },
      split: {
        rule: { by: 'endTag' },
        sections: [
          {
            section: 'Norwegian',
            name: 'Norwegian',
            colour: 'pine',
            flag: { shape: 'burgee', pattern: 'stripe', letters: 'NO' },
          },
          {
            section: 'Sound Design',
            name: 'Sound Design',
            colour: 'plum',
            flag: { shape: 'streamer', pattern: 'border', letters: 'SD' },
          },
          {
            section: 'Food Chemistry',
            name: 'Food Chemistry',
            colour: 'olive',
            flag: { shape: 'scallop', pattern: 'halves', letters: 'FC' },
          },
        ],
      },
    },
  },
  {
    learner: 'juno',
    path: 'school',
    as: {
      name: 'School',
      kind: 'school',
      colour: 'slate',
      flag: { shape: 'wedge', pattern: 'halves', letters: 'SH' },
    },
  },
  {
    learner: 'juno',
    path: 'home',
    as: {
      name: 'Home',
      kind: 'home',
      colour: 'honey',
      flag: { shape: 'shield', pattern: 'plain', letters: 'HM' },
    },
  },
  {
    learner: 'tobias',
    path: 'school',
    as: {
      name: 'School',
      kind: 'school',
      colour: 'slate',
      flag: { shape: 'wedge', pattern: 'halves', letters: 'SH' },
    },
  },
];

/** Work from before the demo clock that Juno has not ticked off; all other past work is finished. */
export const LEFT_OPEN: readonly string[] = [
  'on-tide-5@skerrow.example',
  'on-chart-5@skerrow.example',
  'bb-dinghy-3@skerrow.example',
  'ce-sketch-5@skerrow.example',
];

/** Dates that teachers moved on the day before the demo begins: what they were. */
export const MOVED_YESTERDAY: readonly {
  path: string;
  uid: string;
  was: Pick<CampusEntry, 'start' | 'end' | 'due'>;
}[] = [
  { path: 'boatbuilding', uid: 'bb-dinghy-5@skerrow.example', was: { due: local('2026-10-08', '16:00') } },
  {
    path: 'ceramics-studio',
    uid: 'ce-sketch-7@skerrow.example',
    was: { start: wholeDay('2026-10-14'), end: wholeDay('2026-10-15') },
  },
];
