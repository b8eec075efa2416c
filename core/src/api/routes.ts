import { z } from 'zod';
import * as account from './account.ts';
import { claim, numberClaim, type Admitted } from './claims.ts';
import { layerAccess } from '../item/access.ts';
import { FinishAll, LayerChange, PersonLayerChange } from './layer.ts';
import { paths } from './paths.ts';
import { Brief, BriefFile, BriefPlace, BriefPut, KeptBrief, MadeOn } from './own.ts';
import { LearnerSheet, NoticeView, RemindSet, NoticeSettingsChange, NoticeSettingsView } from './notify.ts';
import { SHEET_EDITIONS } from '../notify/settings.ts';
import { Day, Settings, Term } from './values.ts';
import * as s from './schemas.ts';

/**
 * How far somebody has to be let into the schedule that a request is about; where its body decides, worked
 * out from that.
 */
export type Needed<B> = s.Access | ((body: B) => s.Access);

/**
 * One line of the contract: what the server answers and the client may ask. Every id in it is a claim (see
 * `claims`), and all of a schedule's that come in one request are of one schedule.
 */
export interface Route<
  P extends z.ZodType = z.ZodType,
  Q extends z.ZodType = z.ZodType,
  B extends z.ZodType = z.ZodType,
  R extends z.ZodType = z.ZodType,
  A = Needed<never> | undefined,
> {
  method: 'GET' | 'POST' | 'PATCH' | 'PUT' | 'DELETE';
  /** Express path; parameters as `:name` */
  path: string;
  summary: string;
  params: P;
  query: Q;
  body: B;
  reply: R;
  /** What whoever asks has to be allowed in the schedule it is about; undefined where it is about none */
  access: A;
  /** Answered to anybody, signed in or not */
  open?: boolean;
  /** The body is a file's bytes and not JSON */
  raw?: boolean;
  /** Answered with bytes or events of its own and not with JSON */
  stream?: boolean;
}

const none = z.object({});
type None = typeof none;

function route<
  R extends z.ZodType,
  P extends z.ZodType = None,
  Q extends z.ZodType = None,
  B extends z.ZodType = None,
  A extends Needed<z.output<B>> | undefined = undefined,
>(r: {
  method: Route['method'];
  path: string;
  summary: string;
  reply: R;
  params?: P;
  query?: Q;
  body?: B;
  access?: A;
  open?: boolean;
  raw?: boolean;
  stream?: boolean;
}): Route<P, Q, B, R, A> {
  return {
    params: none as unknown as P,
    query: none as unknown as Q,
    body: none as unknown as B,
    access: undefined as A,
    ...r,
  };
}

const ofLearner = z.object({ learnerId: claim('learner') });
const ofCalendar = z.object({ id: claim('calendar') });
const ofSource = z.object({ id: claim('source') });
const ofItem = z.object({ id: claim('item') });
/** What a file is called, and the date of the item it is for; empty for all of them. */
const fileOfDate = z.object({
  name: z.string().trim().min(1).max(255),
  recurrenceId: z.string().max(64).default(''),
});
const never = z.never();
const done = z.object({ ok: z.literal(true) });

/** Everything the server offers. */
export const routes = {
  session: route({
    ...paths.session,
    summary: 'Who is signed in, whose schedules they see, and what time it is',
    reply: s.Session,
    open: true,
  }),

  signUp: route({
    ...paths.signUp,
    summary: 'Make an account and be signed in; the first one needs the set-up word',
    body: account.SignUp,
    reply: done,
    open: true,
  }),
  signIn: route({ ...paths.signIn, summary: 'Sign in', body: account.SignIn, reply: done, open: true }),
  signOut: route({
    ...paths.signOut,
    summary: 'Sign out, and have the browser forget what it kept',
    reply: done,
    open: true,
  }),
  changePassword: route({
    ...paths.changePassword,
    summary: 'Change the password, which ends all other sessions',
    body: account.PasswordChange,
    reply: done,
  }),
  sendConfirmation: route({
    ...paths.sendConfirmation,
    summary: 'Send the link that confirms the person’s mail address',
    reply: done,
  }),
  confirmAddress: route({
    ...paths.confirmAddress,
    summary: 'Confirm a mail address by the link that was sent to it',
    body: account.Confirmation,
    reply: done,
    open: true,
  }),

  addLearner: route({
    ...paths.addLearner,
    summary: 'Begin a schedule for a learner; whoever begins it may edit it',
    body: s.NewLearner,
    reply: s.Learner,
  }),

  changeSettings: route({
    ...paths.changeSettings,
    summary: 'Change how the person likes to look at things',
    body: Settings,
    reply: Settings,
  }),
  changeTerm: route({
    ...paths.changeTerm,
    access: 'edit',
    summary:
      'Say when a learner’s term is and what its weeks are called; null takes it from the school’s calendar',
    params: ofLearner,
    body: z.object({ term: Term.nullable(), version: MadeOn }),
    reply: done,
  }),
  texts: route({
    ...paths.texts,
    access: 'look',
    summary: 'The beginnings of descriptions, to search in',
    params: ofLearner,
    reply: z.array(z.object({ itemId: s.Id, text: z.string() })),
  }),

  calendars: route({
    ...paths.calendars,
    access: 'look',
    summary: 'A learner’s calendars in order',
    params: ofLearner,
    reply: z.array(s.CalendarView),
  }),
  changeCalendar: route({
    ...paths.changeCalendar,
    access: 'edit',
    summary: 'Change a calendar’s name, kind, colour, flag or zone',
    params: ofCalendar,
    body: s.CalendarChange,
    reply: s.CalendarView,
  }),
  forgetCalendar: route({
    ...paths.forgetCalendar,
    access: 'edit',
    summary: 'Forget a calendar that is followed no more, with the records kept of it',
    params: ofCalendar,
    reply: done,
  }),

  sources: route({
    ...paths.sources,
    access: 'look',
    summary: 'Where a learner’s items come from',
    params: ofLearner,
    reply: z.array(s.SourceView),
  }),
  preview: route({
    ...paths.preview,
    access: 'edit',
    summary: 'Read a link and say what is in it; saves nothing',
    params: ofLearner,
    body: s.PreviewRequest,
    reply: s.Preview,
  }),
  follow: route({
    ...paths.follow,
    access: 'edit',
    summary: 'Follow a link as a new calendar',
    params: ofLearner,
    body: s.FollowRequest,
    reply: s.Followed,
  }),
  readSource: route({
    ...paths.readSource,
    access: 'edit',
    summary: 'Check a followed link now',
    params: ofSource,
    body: s.ReadingRequest,
    reply: s.ReadingResult,
  }),
  sendFile: route({
    ...paths.sendFile,
    access: 'edit',
    summary: 'Send a file and say what is in it; it waits a day to be read in',
    params: ofLearner,
    query: s.FileQuery,
    body: z.instanceof(Uint8Array),
    reply: s.Preview,
  }),
  takeFile: route({
    ...paths.takeFile,
    access: 'edit',
    summary: 'Read a file that waits in as a calendar',
    params: z.object({ id: claim('waitingFile') }),
    body: s.TakeFile,
    reply: s.Followed,
  }),
  takeFileInto: route({
    ...paths.takeFileInto,
    access: 'edit',
    summary: 'Bring a one-time file up to date with a newer copy',
    params: ofSource,
    body: s.TakeFileInto,
    reply: s.ReadingResult,
  }),
  splits: route({
    ...paths.splits,
    access: 'edit',
    summary: 'How a source may be split into calendars',
    params: ofSource,
    reply: z.array(s.SplitProposal),
  }),
  changeSplit: route({
    ...paths.changeSplit,
    access: 'edit',
    summary: 'Split a source into calendars, otherwise than before, or not at all',
    params: ofSource,
    body: z.object({ split: s.SplitRequest.nullable() }),
    reply: s.SourceView,
  }),
  changeSource: route({
    ...paths.changeSource,
    access: 'edit',
    summary: 'Pause checking a followed link or go on; mark its new parts as seen',
    params: ofSource,
    body: s.SourceChange,
    reply: s.SourceView,
  }),
  changeAddress: route({
    ...paths.changeAddress,
    access: 'edit',
    summary: 'Follow the same calendar by another link: all that was ticked off and noted stays',
    params: ofSource,
    body: s.AddressChange,
    reply: s.ReadingResult,
  }),
  removeSource: route({
    ...paths.removeSource,
    access: 'edit',
    summary: 'Stop following a link and take its calendar away',
    params: ofSource,
    reply: done,
  }),

  changes: route({
    ...paths.changes,
    access: 'look',
    summary: 'What readings have changed, latest first',
    params: ofLearner,
    reply: z.array(s.ChangeView),
  }),
  seeChanges: route({
    ...paths.seeChanges,
    access: 'look',
    summary: 'Mark changes as seen, up to one of them',
    params: ofLearner,
    body: z.object({ upTo: z.number().int().nonnegative() }),
    reply: done,
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
  briefFileBytes: route({
    ...paths.briefFileBytes,
    access: 'look',
    summary: 'A file of a brief',
    params: z.object({ id: claim('briefFile') }),
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
  changeBriefFile: route({
    ...paths.changeBriefFile,
    access: 'edit',
    summary: 'Take a file of a brief away, or put it back',
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

  correctItem: route({
    ...paths.correctItem,
    access: 'edit',
    summary: 'Correct what an item is or how it is handed in, for it or for all like it',
    params: ofItem,
    body: s.ItemCorrection,
    reply: z.object({ corrected: z.number() }),
  }),
  joinWindow: route({
    ...paths.joinWindow,
    access: 'edit',
    summary: 'Show an opening and a closing as one item, or as two',
    params: ofItem,
    body: z.object({ joined: z.boolean() }),
    reply: done,
  }),
  setDuplicate: route({
    ...paths.setDuplicate,
    access: 'edit',
    summary: 'Say whether two items are the same thing; null: as they are found',
    params: z.object({ id: claim('item'), otherId: claim('item') }),
    body: z.object({ duplicate: z.boolean().nullable() }),
    reply: done,
  }),
  questions: route({
    ...paths.questions,
    access: 'look',
    summary: 'What feeds alone do not tell: what may be the same thing, and what became of what was marked',
    params: ofLearner,
    reply: s.Questions,
  }),
  matchItem: route({
    ...paths.matchItem,
    access: 'edit',
    summary: 'Say which entry of its feed a lost item is now; null: none. Said again, it is taken back',
    params: ofItem,
    body: z.object({ to: claim('item').nullable() }),
    reply: done,
  }),

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
    reply: z.object({ notices: z.array(NoticeView), unseen: z.number() }),
  }),
  seeNotices: route({
    ...paths.seeNotices,
    summary: 'Mark notices as seen',
    body: z.object({ ids: z.array(numberClaim('notice', 'number', true)).max(500) }),
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

  demoPeople: route({
    ...paths.demoPeople,
    summary: 'The people of the demo world (demo only)',
    reply: z.array(z.object({ id: s.Id, name: z.string(), role: z.string() })),
    open: true,
  }),
  demoBecome: route({
    ...paths.demoBecome,
    summary: 'Sign in as somebody of the demo world (demo only)',
    params: z.object({ person: z.string().max(40) }),
    reply: s.Session,
    open: true,
  }),
  demoPostbox: route({
    ...paths.demoPostbox,
    summary: 'Where the demo’s mail arrives (demo only)',
    reply: z.object({ address: z.string() }),
    open: true,
  }),
  demoClock: route({
    ...paths.demoClock,
    summary: 'Move the demo clock ahead (demo only)',
    body: z.object({
      minutes: z
        .number()
        .int()
        .min(1)
        .max(60 * 24 * 120),
    }),
    reply: z.object({ now: s.Instant }),
  }),
} satisfies Record<keyof typeof paths, Route>;

export type Routes = typeof routes;
/** What a handler is given: what came in, checked, its ids admitted. */
export type ParamsOf<T> =
  T extends Route<infer P, z.ZodType, z.ZodType, z.ZodType> ? Admitted<z.output<P>> : never;
export type QueryOf<T> =
  T extends Route<z.ZodType, infer Q, z.ZodType, z.ZodType> ? Admitted<z.output<Q>> : never;
export type BodyOf<T> =
  T extends Route<z.ZodType, z.ZodType, infer B, z.ZodType> ? Admitted<z.output<B>> : never;
export type ReplyOf<T> = T extends Route<z.ZodType, z.ZodType, z.ZodType, infer R> ? z.output<R> : never;
export type RequestOf<T> =
  T extends Route<infer P, infer Q, infer B, z.ZodType>
    ? { params: z.input<P>; query: z.input<Q>; body: z.input<B> }
    : never;
