import { z } from 'zod';
import { claim } from '../claims.ts';
import { ArchiveLook } from '../archive.ts';
import { Id } from '../schemas.ts';
import { paths } from '../paths.ts';
import { done, never, ofLearner, route } from '../route.ts';
import * as share from '../share.ts';

const ofShare = z.object({ id: claim('share') });

/** Routes for what goes out: links that need no account, and files. */
export const shareRoutes = {
  shares: route({
    ...paths.shares,
    access: 'edit',
    summary: 'The links by which a schedule goes out: for who keeps it all of them, else one’s own',
    params: ofLearner,
    reply: z.array(share.ShareView),
  }),
  addShare: route({
    ...paths.addShare,
    access: 'edit',
    summary: 'Let a schedule, or a part of it, go out by a link; its secret is told this once',
    params: ofLearner,
    body: share.ShareInput,
    reply: share.ShareMade,
  }),
  lookAtShare: route({
    ...paths.lookAtShare,
    access: 'edit',
    summary: 'What others would see by a link',
    params: ofLearner,
    body: share.ShareRulesInput,
    reply: share.ShareLook,
  }),
  changeShare: route({
    ...paths.changeShare,
    access: 'edit',
    summary: 'Change what goes out by a link, or pause it; its address stays',
    params: ofShare,
    body: share.ShareChange,
    reply: share.ShareView,
  }),
  renewShare: route({
    ...paths.renewShare,
    access: 'edit',
    summary: 'Give a link another address; the one before leads nowhere from then on',
    params: ofShare,
    reply: share.ShareMade,
  }),
  takeBackShare: route({
    ...paths.takeBackShare,
    access: 'edit',
    summary: 'Take a link back',
    params: ofShare,
    reply: done,
  }),
  calendarFile: route({
    ...paths.calendarFile,
    access: 'look',
    summary: 'A schedule as an iCalendar file, as whoever asks sees it',
    params: ofLearner,
    query: share.FileQuery,
    reply: never,
    stream: true,
  }),
  archiveSchedule: route({
    ...paths.archiveSchedule,
    access: 'keep',
    summary: 'A schedule with all that was added to it, as one archive that can be brought back',
    params: ofLearner,
    reply: never,
    stream: true,
  }),
  lookAtArchive: route({
    ...paths.lookAtArchive,
    access: 'keep',
    summary: 'What is in an archive, and what of a schedule is otherwise now',
    query: z.object({ compareWith: claim('learner').optional() }),
    reply: ArchiveLook,
    upload: true,
  }),
  restoreSchedule: route({
    ...paths.restoreSchedule,
    access: 'keep',
    summary: 'Make a schedule of an archive, by itself or in the place of another, which is kept',
    query: z.object({ inPlaceOf: claim('learner').optional() }),
    reply: z.object({ id: Id }),
    upload: true,
  }),
  paper: route({
    ...paths.paper,
    access: 'look',
    several: true,
    summary: 'A week or a month to be printed, as a page',
    params: ofLearner,
    query: share.PaperQuery,
    reply: never,
    stream: true,
  }),
  table: route({
    ...paths.table,
    access: 'look',
    summary: 'Items, or what was handed in, as a table (CSV)',
    params: ofLearner,
    query: share.TableQuery,
    reply: never,
    stream: true,
  }),
};
