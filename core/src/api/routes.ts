import { z } from 'zod';
import { Settings, Term } from '../view/settings.ts';
import * as s from './schemas.ts';

/** One line of the contract: what the server answers and the client may ask. */
export interface Route<P extends z.ZodType = z.ZodType, Q extends z.ZodType = z.ZodType, B extends z.ZodType = z.ZodType, R extends z.ZodType = z.ZodType> {
  method: 'GET' | 'POST' | 'PATCH' | 'PUT' | 'DELETE';
  /** Express path; parameters as `:name` */
  path: string;
  summary: string;
  params: P;
  query: Q;
  body: B;
  reply: R;
  /** Whether it needs a signed-in person */
  open?: boolean;
  /** The body is a file's bytes and not JSON */
  raw?: boolean;
}

const none = z.object({});
type None = typeof none;

function route<R extends z.ZodType, P extends z.ZodType = None, Q extends z.ZodType = None, B extends z.ZodType = None>(r: {
  method: Route['method'];
  path: string;
  summary: string;
  reply: R;
  params?: P;
  query?: Q;
  body?: B;
  open?: boolean;
  raw?: boolean;
}): Route<P, Q, B, R> {
  return { params: none as unknown as P, query: none as unknown as Q, body: none as unknown as B, ...r };
}

const ofLearner = z.object({ learnerId: s.Id });
const byId = z.object({ id: s.Id });
const done = z.object({ ok: z.literal(true) });

/** Everything the server offers, apart from signing in (better-auth, under /api/auth). */
export const routes = {
  session: route({ method: 'GET', path: '/api/session', summary: 'Who is signed in, whose schedules they see, and what time it is', reply: s.Session, open: true }),

  addLearner: route({ method: 'POST', path: '/api/learners', summary: 'Begin a schedule for a learner; whoever begins it may edit it', body: s.NewLearner, reply: s.Learner }),

  changeSettings: route({ method: 'PUT', path: '/api/settings', summary: 'Change how the person likes to look at things', body: Settings, reply: Settings }),
  changeTerm: route({ method: 'PUT', path: '/api/learners/:learnerId/term', summary: 'Say when a learner’s term is and what its weeks are called; null takes it from the school’s calendar', params: ofLearner, body: z.object({ term: Term.nullable() }), reply: done }),
  texts: route({ method: 'GET', path: '/api/learners/:learnerId/texts', summary: 'The beginnings of descriptions, to search in', params: ofLearner, reply: z.array(z.object({ itemId: s.Id, text: z.string() })) }),

  calendars: route({ method: 'GET', path: '/api/learners/:learnerId/calendars', summary: 'A learner’s calendars in order', params: ofLearner, reply: z.array(s.CalendarView) }),
  changeCalendar: route({ method: 'PATCH', path: '/api/calendars/:id', summary: 'Change a calendar’s name, sort, colour, flag or zone', params: byId, body: s.CalendarChange, reply: s.CalendarView }),
  forgetCalendar: route({ method: 'DELETE', path: '/api/calendars/:id', summary: 'Forget a calendar that is followed no more, with the records kept of it', params: byId, reply: done }),

  sources: route({ method: 'GET', path: '/api/learners/:learnerId/sources', summary: 'Where a learner’s items come from', params: ofLearner, reply: z.array(s.SourceView) }),
  preview: route({ method: 'POST', path: '/api/learners/:learnerId/preview', summary: 'Read a link and say what is in it; saves nothing', params: ofLearner, body: s.PreviewRequest, reply: s.Preview }),
  follow: route({ method: 'POST', path: '/api/learners/:learnerId/sources', summary: 'Follow a link as a new calendar', params: ofLearner, body: s.FollowRequest, reply: s.Followed }),
  readSource: route({ method: 'POST', path: '/api/sources/:id/reading', summary: 'Check a followed link now', params: byId, body: s.ReadingRequest, reply: s.ReadingResult }),
  sendFile: route({ method: 'POST', path: '/api/learners/:learnerId/files', summary: 'Send a file and say what is in it; it waits a day to be read in', params: ofLearner, query: s.FileQuery, body: z.instanceof(Uint8Array), raw: true, reply: s.Preview }),
  takeFile: route({ method: 'POST', path: '/api/files/:id', summary: 'Read a file that waits in as a calendar', params: byId, body: s.TakeFile, reply: s.Followed }),
  takeFileInto: route({ method: 'POST', path: '/api/sources/:id/file', summary: 'Bring a one-time file up to date with a newer copy', params: byId, body: s.TakeFileInto, reply: s.ReadingResult }),
  splits: route({ method: 'GET', path: '/api/sources/:id/split', summary: 'How a source may be split into calendars', params: byId, reply: z.array(s.SplitProposal) }),
  changeSplit: route({ method: 'PUT', path: '/api/sources/:id/split', summary: 'Split a source into calendars, otherwise than before, or not at all', params: byId, body: z.object({ split: s.SplitRequest.nullable() }), reply: s.SourceView }),
  changeSource: route({ method: 'PATCH', path: '/api/sources/:id', summary: 'Pause checking a followed link or go on; mark its new parts as seen', params: byId, body: s.SourceChange, reply: s.SourceView }),
  removeSource: route({ method: 'DELETE', path: '/api/sources/:id', summary: 'Stop following a link and take its calendar away', params: byId, reply: done }),

  changes: route({ method: 'GET', path: '/api/learners/:learnerId/changes', summary: 'What readings have changed, latest first', params: ofLearner, reply: z.array(s.ChangeView) }),
  seeChanges: route({ method: 'POST', path: '/api/learners/:learnerId/changes/seen', summary: 'Mark changes as seen, up to one of them', params: ofLearner, body: z.object({ upTo: z.number().int().nonnegative() }), reply: done }),

  occurrences: route({
    method: 'GET',
    path: '/api/learners/:learnerId/occurrences',
    summary: 'What stands between two moments, over all calendars',
    params: ofLearner,
    query: z.object({ from: s.Instant, to: s.Instant }),
    reply: z.array(s.OccurrenceView),
  }),
  item: route({ method: 'GET', path: '/api/items/:id', summary: 'Everything known of one item or occurrence', params: byId, query: z.object({ key: z.string().max(64).default('') }), reply: s.ItemView }),
  changeLayer: route({ method: 'PUT', path: '/api/items/:id/layer', summary: 'Change a learner’s own layer on an item', params: byId, body: s.LayerChange, reply: s.OccurrenceView }),

  correctItem: route({ method: 'PUT', path: '/api/items/:id/understanding', summary: 'Correct what an item is or how it is handed in, for it or for all like it', params: byId, body: s.ItemCorrection, reply: z.object({ corrected: z.number() }) }),
  tellWindowApart: route({ method: 'PUT', path: '/api/items/:id/window', summary: 'Show an opening and a closing apart, or joined again', params: byId, body: s.ToldApart, reply: done }),
  tellTwinApart: route({ method: 'PUT', path: '/api/items/:id/twins/:otherId', summary: 'Say that two items are not the same thing, or that they are', params: z.object({ id: s.Id, otherId: s.Id }), body: s.ToldApart, reply: done }),

  demoPeople: route({ method: 'GET', path: '/api/demo/people', summary: 'The people of the demo world (demo only)', reply: z.array(z.object({ id: s.Id, name: z.string(), role: z.string() })), open: true }),
  demoBecome: route({ method: 'POST', path: '/api/demo/people/:id/session', summary: 'Sign in as somebody of the demo world (demo only)', params: byId, reply: s.Session, open: true }),
  demoClock: route({ method: 'POST', path: '/api/demo/clock', summary: 'Move the demo clock ahead (demo only)', body: z.object({ minutes: z.number().int().min(1).max(60 * 24 * 120) }), reply: z.object({ now: s.Instant }) }),
} as const; // prettier-ignore

export type Routes = typeof routes;
export type ParamsOf<T> = T extends Route<infer P, z.ZodType, z.ZodType, z.ZodType> ? z.output<P> : never;
export type QueryOf<T> = T extends Route<z.ZodType, infer Q, z.ZodType, z.ZodType> ? z.output<Q> : never;
export type BodyOf<T> = T extends Route<z.ZodType, z.ZodType, infer B, z.ZodType> ? z.output<B> : never;
export type ReplyOf<T> = T extends Route<z.ZodType, z.ZodType, z.ZodType, infer R> ? z.output<R> : never;
export type RequestOf<T> = T extends Route<infer P, infer Q, infer B, z.ZodType> ? { params: z.input<P>; query: z.input<Q>; body: z.input<B> } : never;
