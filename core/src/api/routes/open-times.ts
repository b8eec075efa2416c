import { z } from 'zod';
import * as times from '../open-times.ts';
import { paths } from '../paths.ts';
import { done, ofItem, ofLearner, route } from '../route.ts';

/** Open times, and "will you come?". */
export const openTimeRoutes = {
  openTimes: route({
    ...paths.openTimes,
    summary: 'The times the caller offers, with what is taken by whom',
    reply: z.array(times.OpenTimesView),
  }),
  offerTimes: route({
    ...paths.offerTimes,
    access: 'look',
    several: true,
    summary: 'Offer times to some learners; breaks and what the caller has already are left out',
    body: times.NewOpenTimes,
    reply: times.OpenTimesView,
  }),
  endTimes: route({
    ...paths.endTimes,
    summary: 'Offer these times no more; what is taken stays',
    params: times.ofOpenTimes,
    reply: done,
  }),
  openSlots: route({
    ...paths.openSlots,
    access: 'look',
    summary: 'The times that are offered to a learner and can be taken or are taken',
    params: ofLearner,
    reply: z.array(times.OpenSlotView),
  }),
  takeSlot: route({
    ...paths.takeSlot,
    access: 'edit',
    several: true,
    summary: 'Take a time for a learner; where somebody was faster, the nearest ones that are left',
    params: times.ofSlot,
    body: times.Taking,
    reply: times.Taken,
  }),
  giveBack: route({
    ...paths.giveBack,
    access: 'edit',
    several: true,
    summary: 'Give a time back, or move to another one; by either side, with a word to the other',
    params: times.ofBooking,
    body: times.GivingBack,
    reply: times.Taken,
  }),
  replies: route({
    ...paths.replies,
    access: 'look',
    summary: 'What was answered to whether one will come',
    params: ofItem,
    query: z.object({ recurrenceId: z.string().max(64).default('') }),
    reply: times.RepliesView,
  }),
  askToCome: route({
    ...paths.askToCome,
    access: 'edit',
    summary: 'Ask of an event of one’s own whether people will come, or ask no more',
    params: ofItem,
    body: z.object({ asks: z.boolean() }),
    reply: done,
  }),
  sayComing: route({
    ...paths.sayComing,
    access: 'look',
    summary: 'Say whether one will come',
    params: ofItem,
    body: times.Reply,
    reply: done,
  }),
  remindToAnswer: route({
    ...paths.remindToAnswer,
    access: 'edit',
    summary: 'Remind those who have not answered, once',
    params: ofItem,
    reply: z.object({ reminded: z.number() }),
  }),
};
