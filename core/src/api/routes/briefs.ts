import { z } from 'zod';
import { paths } from '../paths.ts';
import { claim } from '../claims.ts';
import { Brief, BriefFile, BriefPlace, BriefPut, KeptBrief, MadeOn } from '../own.ts';
import { done, fileOfDate, never, ofItem, ofLearner, route } from '../route.ts';

/** Briefs, their files, and the photos of what was handed in. */
export const briefRoutes = {
  changeBrief: route({
    ...paths.changeBrief,
    access: 'edit',
    summary:
      'Write an item’s brief, for all its dates, (by recurrence-id) for one, or for all items like it; gives what stood there',
    params: ofItem,
    body: z.object({
      recurrenceId: z.string().max(64).default(''),
      brief: Brief.nullable(),
      alike: z.boolean().default(false),
      version: MadeOn.optional(),
    }),
    reply: z.object({ before: z.array(BriefPlace) }),
  }),
  putBriefs: route({
    ...paths.putBriefs,
    access: 'edit',
    summary: 'Put briefs on several items by the texts that say them, all or none; gives what stood there',
    params: ofLearner,
    body: z.object({ writes: z.array(BriefPut).min(1).max(1000), version: MadeOn.optional() }),
    reply: z.object({ before: z.array(BriefPlace) }),
  }),
  sendBriefFile: route({
    ...paths.sendBriefFile,
    access: 'edit',
    summary: 'Add a picture or file to a brief',
    params: ofItem,
    query: fileOfDate,
    body: z.instanceof(Uint8Array),
    reply: BriefFile,
  }),
  changeBriefFile: route({
    ...paths.changeBriefFile,
    access: 'edit',
    summary: 'Take a file of a brief away, or put it back',
    params: z.object({ id: claim('briefFile') }),
    body: z.object({ removed: z.boolean() }),
    reply: done,
  }),
  briefFileBytes: route({
    ...paths.briefFileBytes,
    access: 'look',
    summary: 'A file of a brief',
    params: z.object({ id: claim('briefFile') }),
    reply: never,
    stream: true,
  }),
  sendRecordPhoto: route({
    ...paths.sendRecordPhoto,
    access: 'tick',
    summary: 'Add a photo of how something was handed in',
    params: ofItem,
    query: fileOfDate,
    body: z.instanceof(Uint8Array),
    reply: BriefFile,
  }),
  changeRecordPhoto: route({
    ...paths.changeRecordPhoto,
    access: 'tick',
    summary: 'Take a photo of a record away, or put it back',
    params: z.object({ id: claim('briefFile') }),
    body: z.object({ removed: z.boolean() }),
    reply: done,
  }),
  keptBriefs: route({
    ...paths.keptBriefs,
    summary: 'Briefs the person keeps to begin others with',
    reply: z.array(KeptBrief),
  }),
  keepBrief: route({
    ...paths.keepBrief,
    summary: 'Keep a brief under a name, in place of one of the same name',
    body: KeptBrief.omit({ id: true }),
    reply: KeptBrief,
  }),
  forgetBrief: route({
    ...paths.forgetBrief,
    summary: 'Keep a brief no more',
    params: z.object({ id: claim('keptBrief') }),
    reply: done,
  }),
};
