import { z } from 'zod';
import { claim } from '../claims.ts';
import { paths } from '../paths.ts';
import * as publish from '../publish.ts';
import { done, ofCalendar, ofItem, ofLearner, route } from '../route.ts';
import * as s from '../schemas.ts';

/** Calendars that somebody keeps for others, and who has looked at what is in them. */
export const publishRoutes = {
  publications: route({
    ...paths.publications,
    access: 'edit',
    summary: 'The calendars of a schedule that are offered to others, and who has taken them in',
    params: ofLearner,
    reply: z.array(publish.Publication),
  }),
  publish: route({
    ...paths.publish,
    access: 'look',
    several: true,
    summary: 'Say which schedules a calendar of one’s own is offered to; it is taken back from all others',
    params: ofCalendar,
    body: publish.OffersChange,
    reply: publish.Publication,
  }),
  offers: route({
    ...paths.offers,
    access: 'look',
    summary: 'The calendars that are offered to a schedule and wait for an answer',
    params: ofLearner,
    reply: z.array(publish.OfferView),
  }),
  answerOffer: route({
    ...paths.answerOffer,
    access: 'edit',
    summary: 'Take an offered calendar in, or not',
    params: z.object({ id: claim('offer') }),
    body: publish.OfferAnswer,
    reply: z.object({ calendarId: s.Id.nullable() }),
  }),
  openItem: route({
    ...paths.openItem,
    access: 'look',
    summary: 'Say that the caller has opened an item',
    params: ofItem,
    reply: done,
  }),
  ownItems: route({
    ...paths.ownItems,
    access: 'look',
    summary: 'All items of a calendar made by hand, as they may be carried to another term',
    params: ofCalendar,
    reply: publish.OwnItemsView,
  }),
  carryForward: route({
    ...paths.carryForward,
    access: 'edit',
    summary: 'Make a calendar of another one’s items, at other dates, with their briefs and files',
    params: ofCalendar,
    body: publish.Carried,
    reply: s.CalendarView,
  }),
};
