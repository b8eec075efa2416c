import { z } from 'zod';
import { layerAccess } from '../../item/access.ts';
import { paths } from '../paths.ts';
import { FinishAll, LayerChange, PersonLayerChange } from '../layer.ts';
import { never, ofItem, ofLearner, route } from '../route.ts';
import * as s from '../schemas.ts';

/** Routes for what stands in a schedule, its layers, and items of one’s own. */
export const itemRoutes = {
  texts: route({
    ...paths.texts,
    access: 'look',
    summary: 'The beginnings of descriptions, to search in',
    params: ofLearner,
    reply: z.array(z.object({ itemId: s.Id, text: z.string() })),
  }),
  occurrences: route({
    ...paths.occurrences,
    access: 'look',
    summary: 'What stands between two moments, over all calendars',
    params: ofLearner,
    query: z.object({ from: s.Instant, to: s.Instant }),
    reply: z.array(s.OccurrenceView),
  }),
  item: route({
    ...paths.item,
    access: 'look',
    summary: 'Everything known of one item or occurrence',
    params: ofItem,
    query: z.object({ recurrenceId: z.string().max(64).default('') }),
    reply: s.ItemView,
  }),
  changeLayer: route({
    ...paths.changeLayer,
    access: layerAccess,
    summary: 'Change the layer that a learner’s crew shares on an item',
    params: ofItem,
    body: LayerChange,
    reply: s.OccurrenceView,
  }),
  timer: route({
    ...paths.timer,
    access: 'look',
    summary: 'The clock that runs for a learner, if one does',
    params: ofLearner,
    reply: s.TimerView.nullable(),
  }),
  finishAll: route({
    ...paths.finishAll,
    access: 'tick',
    summary:
      'Finish many things at once, or open them again; gives those that were still as they were said to be',
    params: ofLearner,
    body: FinishAll,
    reply: z.array(s.OccurrenceView),
  }),
  changePersonLayer: route({
    ...paths.changePersonLayer,
    access: 'look',
    summary: 'Change what the caller has for themselves on an item: hidden, colour, note',
    params: ofItem,
    body: PersonLayerChange,
    reply: s.OccurrenceView,
  }),
  live: route({
    ...paths.live,
    access: 'look',
    summary: 'Events while a page is open: what others, or other pages, have changed',
    params: ofLearner,
    query: z.object({ page: z.string().max(64).optional() }),
    reply: never,
    stream: true,
  }),
  addCalendar: route({
    ...paths.addCalendar,
    access: 'edit',
    summary: 'Begin a calendar of one’s own, for what no link carries',
    params: ofLearner,
    body: s.NewOwnCalendar,
    reply: s.CalendarView,
  }),
  writeOwn: route({
    ...paths.writeOwn,
    access: 'edit',
    summary:
      'Write items of one’s own making, all or none of them; gives their occurrences in the span that is shown, and those without a date',
    params: ofLearner,
    body: z.object({
      writes: z.array(s.OwnWrite).min(1).max(50),
      shown: z.object({ from: s.Instant, to: s.Instant }).optional(),
    }),
    reply: z.object({ written: z.array(s.OwnWritten), occurrences: z.array(s.OccurrenceView) }),
  }),
  undated: route({
    ...paths.undated,
    access: 'look',
    summary: 'Work without a date',
    params: ofLearner,
    reply: z.array(s.OccurrenceView),
  }),
};
