import { z } from 'zod';
import { paths } from '../paths.ts';
import { done, route } from '../route.ts';
import * as table from '../table.ts';

/** All learners somebody looks after, in one table. */
export const tableRoutes = {
  learnersTable: route({
    ...paths.learnersTable,
    summary:
      'How each learner stands whom the caller looks after: weeks to come, what is past due, what is next',
    query: z.object({
      weeks: z.enum(table.TABLE_WEEKS).default('5'),
      course: z.string().trim().max(120).optional(),
    }),
    reply: table.LearnersTable,
  }),
  learnersDays: route({
    ...paths.learnersDays,
    access: 'look',
    several: true,
    summary: 'What some learners have on some days: who has what, and where a new date would clash',
    query: table.DaysQuery,
    reply: table.LearnersDays,
  }),
  changeGroups: route({
    ...paths.changeGroups,
    summary: 'Say which learners the caller looks at together',
    body: table.GroupsChange,
    reply: done,
  }),
};
