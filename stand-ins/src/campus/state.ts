import { existsSync, readFileSync, renameSync, writeFileSync } from 'node:fs';
import type { CampusFeed, Mode } from './feed.ts';

export interface FeedState {
  feed: CampusFeed;
  mode: Mode;
  /** Instant of the last change, for Last-Modified; real time in milliseconds */
  changedAt: number;
}

/** The campus's feeds as the teacher's desk has left them; kept in a file if one is given. */
export class CampusState {
  readonly feeds: FeedState[];

  constructor(
    feeds: readonly CampusFeed[],
    private readonly file: string | null = null,
  ) {
    const kept = file && existsSync(file) ? (JSON.parse(readFileSync(file, 'utf8')) as FeedState[]) : [];
    const changedAt = Math.floor(Date.now() / 1000) * 1000;
    this.feeds = feeds.map(
      (feed) =>
        kept.find((k) => k.feed.path === feed.path) ?? {
          feed: structuredClone(feed),
          mode: 'normal',
          changedAt,
        },
    );
  }

  find(path: string): FeedState | undefined {
    return this.feeds.find((f) => f.feed.path === path);
  }

  /** Changes a feed and keeps the change. */
  change(state: FeedState, work: (state: FeedState) => void): void {
    work(state);
    // Whole seconds, as HTTP dates have them; never the same second twice, or a validator would not notice.
    state.changedAt = Math.max(Math.floor(Date.now() / 1000) * 1000, state.changedAt + 1000);
    if (!this.file) return;
    writeFileSync(`${this.file}.new`, JSON.stringify(this.feeds));
    renameSync(`${this.file}.new`, this.file);
  }
}
