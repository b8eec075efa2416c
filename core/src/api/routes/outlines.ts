import { z } from 'zod';
import * as outlines from '../outlines.ts';
import { paths } from '../paths.ts';
import { done, ofLearner, route } from '../route.ts';

/** Course outlines: what is found in them, and keeping them. */
export const outlineRoutes = {
  outlines: route({
    ...paths.outlines,
    access: 'look',
    summary: 'The outlines that are kept with the calendars of a schedule',
    params: ofLearner,
    reply: z.array(outlines.OutlineHead),
  }),
  sendOutline: route({
    ...paths.sendOutline,
    access: 'edit',
    summary: 'Send an outline and say what is found in it; it waits a day to be kept',
    params: ofLearner,
    query: outlines.OutlineQuery,
    body: z.instanceof(Uint8Array),
    reply: outlines.OutlineView,
  }),
  outline: route({
    ...paths.outline,
    access: 'look',
    summary: 'An outline, read again for a term and an order of day and month',
    params: outlines.ofOutline,
    query: outlines.OutlineTerm,
    reply: outlines.OutlineView,
  }),
  keepOutline: route({
    ...paths.keepOutline,
    access: 'edit',
    summary: 'Keep an outline with the calendar that its items were added to',
    params: outlines.ofOutline,
    body: outlines.KeepingOutline,
    reply: outlines.OutlineHead,
  }),
  forgetOutline: route({
    ...paths.forgetOutline,
    access: 'edit',
    summary: 'Let go of an outline; what was added from it stays',
    params: outlines.ofOutline,
    reply: done,
  }),
};
