import { createRequire } from 'node:module';
import { join } from 'node:path';
import type { RenderInput, RenderToday } from '@zephyrfield/core/api/server-render';

/** Gives what draws Today, as the build leaves it in the web app's folder. */
export const drawerIn = (web: string): string => join(web, '.server-render/today.cjs');

export interface DrawJob {
  /** Folder of the built web app */
  web: string;
  input: Omit<RenderInput, 'occurrences'>;
  /** As JSON: a text crosses threads at little cost */
  occurrences: string;
}

/** Today as it was drawn, as text. */
export interface Drawing {
  html: string;
  css: string;
  /** Replies that it was drawn from, as JSON for a page; null for the session, which tells the time */
  replies: (readonly [path: string, reply: string | null])[];
}

/** JSON as it may stand in a page: nothing in it ends the script it stands in. */
export const inPage = (value: unknown): string => escaped(JSON.stringify(value));
const escaped = (json: string): string => json.replaceAll('<', '\\u003c');

const drawers = new Map<string, RenderToday>();

/** Draws Today; runs in a worker thread. */
export function drawTodayIn({ web, input, occurrences: json }: DrawJob): Drawing {
  const built = drawerIn(web);
  let draw = drawers.get(built);
  if (!draw) {
    draw = (createRequire(built)(built) as { drawToday: RenderToday }).drawToday;
    drawers.set(built, draw);
  }
  const occurrences = JSON.parse(json) as RenderInput['occurrences'];
  const { html, css, replies } = draw({ ...input, occurrences });
  return {
    html,
    css,
    replies: replies.map(([path, reply]) => [
      path,
      reply === input.session ? null : reply === occurrences ? escaped(json) : inPage(reply),
    ]),
  };
}
