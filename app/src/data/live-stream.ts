/** What is done with a stream of events. */
export interface StreamFollower {
  /** By the event's name */
  on: Readonly<Record<string, () => void>>;
  /** It is there for the first time */
  opened(): void;
  /** It is there again after a while in which nothing was heard */
  cameBack(): void;
  /** It was answered otherwise than with a stream: by a proxy while the server starts, or since a session has ended */
  refused(): void;
}

const FIRST_WAIT = 1_000;
const LONGEST_WAIT = 30_000;
const CLOSED = 2;

/**
 * Follows a stream of server-sent events for as long as the page is there. A browser comes back by itself after a
 * connection was lost, but never after an answer that is no stream (a proxy's 502, say): then it is opened anew, each
 * time after twice as long, and at once when the device is back on the network.
 * @returns what ends it
 */
export function followStream(url: string, { on, opened, cameBack, refused }: StreamFollower): () => void {
  let source: EventSource;
  let wait = FIRST_WAIT;
  let timer: ReturnType<typeof setTimeout> | undefined;
  let hasOpened = false;
  let isAway = false;

  function open(): void {
    clearTimeout(timer);
    timer = undefined;
    source = new EventSource(url);
    for (const [name, heard] of Object.entries(on)) source.addEventListener(name, heard);
    source.addEventListener('open', () => {
      wait = FIRST_WAIT;
      if (!hasOpened) opened();
      else if (isAway) cameBack();
      hasOpened = true;
      isAway = false;
    });
    source.addEventListener('error', () => {
      isAway = true;
      if (source.readyState !== CLOSED || timer !== undefined) return;
      refused();
      // Not all pages at the very same moment.
      timer = setTimeout(open, wait * (0.75 + Math.random() / 2));
      wait = Math.min(LONGEST_WAIT, wait * 2);
    });
  }
  const backOnline = () => {
    if (timer !== undefined) open();
  };
  open();
  globalThis.addEventListener?.('online', backOnline);
  return () => {
    clearTimeout(timer);
    globalThis.removeEventListener?.('online', backOnline);
    source.close();
  };
}
