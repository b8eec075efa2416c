/**
 * Where each line of the contract is asked; what it takes and gives stands in `routes`. Parameters as
 * `:name`, as Express has them.
 */
export interface Path {
  method: 'GET' | 'POST' | 'PATCH' | 'PUT' | 'DELETE';
  path: string;
  /** The body is a file's bytes and not JSON */
  raw?: boolean;
}

/** The header in which a page says with whose eyes it looks: somebody in a crew, by what names them there. */
export const SEE_AS_HEADER = 'x-zephyrfield-see-as';

/** The header in which an open page names itself, so that it need not be told of its own changes. */
export const PAGE_HEADER = 'x-zephyrfield-page';

export const paths = {
  session: { method: 'GET', path: '/api/session' },
  signUp: { method: 'POST', path: '/api/auth/sign-up/email' },
  signIn: { method: 'POST', path: '/api/auth/sign-in/email' },
  signOut: { method: 'POST', path: '/api/auth/sign-out' },
  changePassword: { method: 'POST', path: '/api/auth/change-password' },
  sendConfirmation: { method: 'POST', path: '/api/account/confirmation' },
  confirmAddress: { method: 'POST', path: '/api/account/confirmed' },
  addLearner: { method: 'POST', path: '/api/learners' },
  changeSettings: { method: 'PUT', path: '/api/settings' },
  changeTerm: { method: 'PUT', path: '/api/learners/:learnerId/term' },
  texts: { method: 'GET', path: '/api/learners/:learnerId/texts' },
  calendars: { method: 'GET', path: '/api/learners/:learnerId/calendars' },
  changeCalendar: { method: 'PATCH', path: '/api/calendars/:id' },
  forgetCalendar: { method: 'DELETE', path: '/api/calendars/:id' },
  sources: { method: 'GET', path: '/api/learners/:learnerId/sources' },
  preview: { method: 'POST', path: '/api/learners/:learnerId/preview' },
  follow: { method: 'POST', path: '/api/learners/:learnerId/sources' },
  readSource: { method: 'POST', path: '/api/sources/:id/reading' },
  sendFile: { method: 'POST', path: '/api/learners/:learnerId/files', raw: true },
  takeFile: { method: 'POST', path: '/api/files/:id' },
  takeFileInto: { method: 'POST', path: '/api/sources/:id/file' },
  splits: { method: 'GET', path: '/api/sources/:id/split' },
  changeSplit: { method: 'PUT', path: '/api/sources/:id/split' },
  changeSource: { method: 'PATCH', path: '/api/sources/:id' },
  changeAddress: { method: 'PUT', path: '/api/sources/:id/address' },
  removeSource: { method: 'DELETE', path: '/api/sources/:id' },
  changes: { method: 'GET', path: '/api/learners/:learnerId/changes' },
  seeChanges: { method: 'POST', path: '/api/learners/:learnerId/changes/seen' },
  occurrences: { method: 'GET', path: '/api/learners/:learnerId/occurrences' },
  item: { method: 'GET', path: '/api/items/:id' },
  changeLayer: { method: 'PATCH', path: '/api/items/:id/layer' },
  plan: { method: 'GET', path: '/api/learners/:learnerId/plan' },
  changePlanSettings: { method: 'PUT', path: '/api/learners/:learnerId/plan/settings' },
  writeRunUps: { method: 'POST', path: '/api/learners/:learnerId/plan/run-ups' },
  tellSitting: { method: 'PATCH', path: '/api/items/:id/sitting' },
  timer: { method: 'GET', path: '/api/learners/:learnerId/timer' },
  finishAll: { method: 'POST', path: '/api/learners/:learnerId/finished' },
  changePersonLayer: { method: 'PATCH', path: '/api/items/:id/person-layer' },
  correctItem: { method: 'PATCH', path: '/api/items/:id/understanding' },
  joinWindow: { method: 'PUT', path: '/api/items/:id/window' },
  questions: { method: 'GET', path: '/api/learners/:learnerId/questions' },
  matchItem: { method: 'PUT', path: '/api/items/:id/match' },
  setDuplicate: { method: 'PUT', path: '/api/items/:id/duplicates/:otherId' },
  demoPeople: { method: 'GET', path: '/api/demo/people' },
  demoBecome: { method: 'POST', path: '/api/demo/people/:person/session' },
  demoPostbox: { method: 'GET', path: '/api/demo/postbox' },
  demoClock: { method: 'POST', path: '/api/demo/clock' },
  live: { method: 'GET', path: '/api/learners/:learnerId/live' },
  briefFileBytes: { method: 'GET', path: '/api/brief-files/:id/bytes' },
  addCalendar: { method: 'POST', path: '/api/learners/:learnerId/calendars' },
  writeOwn: { method: 'POST', path: '/api/learners/:learnerId/own' },
  undated: { method: 'GET', path: '/api/learners/:learnerId/undated' },
  changeBrief: { method: 'PUT', path: '/api/items/:id/brief' },
  putBriefs: { method: 'POST', path: '/api/learners/:learnerId/briefs' },
  sendBriefFile: { method: 'POST', path: '/api/items/:id/files', raw: true },
  sendRecordPhoto: { method: 'POST', path: '/api/items/:id/record-photos', raw: true },
  changeRecordPhoto: { method: 'PATCH', path: '/api/record-photos/:id' },
  changeBriefFile: { method: 'PATCH', path: '/api/brief-files/:id' },
  keptBriefs: { method: 'GET', path: '/api/briefs' },
  keepBrief: { method: 'POST', path: '/api/briefs' },
  forgetBrief: { method: 'DELETE', path: '/api/briefs/:id' },
  changeReminders: { method: 'PUT', path: '/api/learners/:learnerId/reminders' },
  notices: { method: 'GET', path: '/api/notices' },
  seeNotices: { method: 'POST', path: '/api/notices/seen' },
  takeNotices: { method: 'POST', path: '/api/notices/taken' },
  snoozeNotice: { method: 'POST', path: '/api/notices/:id/snooze' },
  noticeSettings: { method: 'GET', path: '/api/notice-settings' },
  changeNoticeSettings: { method: 'PUT', path: '/api/notice-settings' },
  tryMail: { method: 'POST', path: '/api/notice-settings/mail' },
  crew: { method: 'GET', path: '/api/learners/:learnerId/crew' },
  changeMember: { method: 'PATCH', path: '/api/members/:id' },
  removeMember: { method: 'DELETE', path: '/api/members/:id' },
  invite: { method: 'POST', path: '/api/invitations' },
  takeBackInvitation: { method: 'DELETE', path: '/api/invitations/:id' },
  lookAtInvitation: { method: 'POST', path: '/api/invitation/look' },
  acceptInvitation: { method: 'POST', path: '/api/invitation/accepted' },
  changeAudience: { method: 'PUT', path: '/api/calendars/:id/audience' },
  daySheet: { method: 'GET', path: '/api/day-sheets' },
} as const satisfies Record<string, Path>;
