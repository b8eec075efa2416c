/** Where each line of the contract is asked; what it takes and gives stands in `routes`. Parameters as `:name`, as Express has them. */
export interface Path {
  method: 'GET' | 'POST' | 'PATCH' | 'PUT' | 'DELETE';
  path: string;
  /** The body is a file's bytes and not JSON */
  raw?: boolean;
}

export const paths = {
  session: { method: 'GET', path: '/api/session' },
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
  removeSource: { method: 'DELETE', path: '/api/sources/:id' },
  changes: { method: 'GET', path: '/api/learners/:learnerId/changes' },
  seeChanges: { method: 'POST', path: '/api/learners/:learnerId/changes/seen' },
  occurrences: { method: 'GET', path: '/api/learners/:learnerId/occurrences' },
  item: { method: 'GET', path: '/api/items/:id' },
  changeLayer: { method: 'PUT', path: '/api/items/:id/layer' },
  correctItem: { method: 'PUT', path: '/api/items/:id/understanding' },
  tellWindowApart: { method: 'PUT', path: '/api/items/:id/window' },
  tellTwinApart: { method: 'PUT', path: '/api/items/:id/twins/:otherId' },
  demoPeople: { method: 'GET', path: '/api/demo/people' },
  demoBecome: { method: 'POST', path: '/api/demo/people/:id/session' },
  demoClock: { method: 'POST', path: '/api/demo/clock' },
  addCalendar: { method: 'POST', path: '/api/learners/:learnerId/calendars' },
  writeOwn: { method: 'PUT', path: '/api/learners/:learnerId/own' },
  undated: { method: 'GET', path: '/api/learners/:learnerId/undated' },
  changeBrief: { method: 'PUT', path: '/api/items/:id/brief' },
  putBriefs: { method: 'PUT', path: '/api/learners/:learnerId/briefs' },
  sendBriefFile: { method: 'POST', path: '/api/items/:id/files', raw: true },
  changeBriefFile: { method: 'PATCH', path: '/api/brief-files/:id' },
  keptBriefs: { method: 'GET', path: '/api/briefs' },
  keepBrief: { method: 'PUT', path: '/api/briefs' },
  forgetBrief: { method: 'DELETE', path: '/api/briefs/:id' },
} as const satisfies Record<string, Path>; // prettier-ignore
