import { z } from 'zod';
import { SHEET_EDITIONS } from '../../notify/settings.ts';
import { paths } from '../paths.ts';
import { numberClaim } from '../claims.ts';
import { MadeOn } from '../own.ts';
import { LearnerSheet, NoticeView, RemindSet, NoticeSettingsChange, NoticeSettingsView } from '../notify.ts';
import { done, ofLearner, route } from '../route.ts';
import { Day } from '../values.ts';
import * as s from '../schemas.ts';

/** Reminders, notices and the day sheet. */
export const noticeRoutes = {
  changeReminders: route({
    ...paths.changeReminders,
    access: 'edit',
    summary: 'Say when to remind of what in a learner’s whole schedule; null: as it was to begin with',
    params: ofLearner,
    body: z.object({ reminders: RemindSet.nullable(), version: MadeOn }),
    reply: done,
  }),
  notices: route({
    ...paths.notices,
    summary: 'What the person was told, latest first',
    reply: z.object({
      notices: z.array(NoticeView),
      /** Number of things they have not seen: several notes of one thread are one */
      unseen: z.number(),
      /** Number of notes they have not read: pages of 1.0 show it */
      notes: z.number(),
    }),
  }),
  seeNotices: route({
    ...paths.seeNotices,
    summary: 'Mark notices as seen',
    body: z.object({ ids: z.array(numberClaim('notice', 'number', true)).max(500) }),
    reply: done,
  }),
  seeNews: route({
    ...paths.seeNews,
    summary: 'Mark all news as seen that came up to a moment: what one was told, changes, notes',
    body: z.object({ upTo: s.Instant }),
    reply: done,
  }),
  takeNotices: route({
    ...paths.takeNotices,
    summary: 'Take over what is to be shown by the browser; each is given to one of its windows, once',
    reply: z.array(NoticeView),
  }),
  snoozeNotice: route({
    ...paths.snoozeNotice,
    summary: 'Be told again at a later moment',
    params: z.object({ id: numberClaim('notice', 'text') }),
    body: z.object({ until: s.Instant }),
    reply: done,
  }),
  noticeSettings: route({
    ...paths.noticeSettings,
    summary: 'What the person wants to be told, and what stands in the way',
    reply: NoticeSettingsView,
  }),
  changeNoticeSettings: route({
    ...paths.changeNoticeSettings,
    summary: 'Change what the person wants to be told',
    body: NoticeSettingsChange,
    reply: NoticeSettingsView,
  }),
  tryMail: route({
    ...paths.tryMail,
    summary: 'Send the person a mail to see whether it arrives',
    reply: done,
  }),
  daySheet: route({
    ...paths.daySheet,
    summary: 'The day sheet, for each learner the person sees',
    query: z.object({ edition: z.enum(SHEET_EDITIONS), day: Day }),
    reply: z.array(LearnerSheet),
  }),
};
