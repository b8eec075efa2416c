/** What an occurrence carries before anybody has put a mark on it. */
export const UNTOUCHED = {
  undated: false,
  own: false,
  finished: false,
  finishedAt: null,
  handedIn: null,
  stillToDo: false,
  aim: null,
  estimate: null,
  hidden: false,
  colour: null,
  position: null,
  version: 0,
} as const;
