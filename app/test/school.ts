import type { CalendarView, ItemView, Learner, OccurrenceView, Session } from '@zephyrfield/core/api/schemas';
import { editOccurrence, type ShownEdit } from '@zephyrfield/core/item/layer';
import { UNTOUCHED } from '@zephyrfield/core/item/occurrence';
import { DEFAULT_SETTINGS } from '@zephyrfield/core/view/settings';

/** The moment all of it is looked at: Tuesday 6 October 2026, 16:10 in Dublin. */
export const NOW = '2026-10-06T15:10:00.000Z';

export const learner: Learner = {
  id: 'juno',
  name: 'Juno Lindqvist-Amadi',
  zone: 'Europe/Dublin',
  access: 'edit',
  isSelf: false,
  term: null,
  reminders: null,
};

export const calendar = (
  id: string,
  name: string,
  letters: string,
  more: Partial<CalendarView> = {},
): CalendarView => ({
  id,
  learnerId: learner.id,
  name,
  kind: 'course',
  category: '',
  colour: 'rose',
  flag: { shape: 'square', pattern: 'dot', letters },
  zone: 'Europe/Dublin',
  position: 1,
  handMade: false,
  reminders: null,
  alarms: 'ignore',
  audience: null,
  madeBy: null,
  ...more,
});

export const CERAMICS = calendar('ce', 'Ceramics Studio', 'CE');
export const BOATS = calendar('bb', 'Boatbuilding', 'BB', { colour: 'rust', position: 2 });

/** Work to hand in online at a moment (UTC). */
export function work(title: string, at: string, more: Partial<OccurrenceView> = {}): OccurrenceView {
  const due = { kind: 'instant', at, zone: 'Europe/Dublin' } as const;
  return {
    itemId: title.toLowerCase().replaceAll(' ', '-'),
    recurrenceId: '',
    calendarId: 'ce',
    alsoIn: [],
    title,
    place: '',
    kind: 'assignment',
    handIn: 'online',
    status: 'confirmed',
    start: due,
    end: null,
    due,
    ...UNTOUCHED,
    ...more,
  };
}

/** Something to be at, from one moment (UTC) to another. */
export const lesson = (
  title: string,
  from: string,
  to: string,
  more: Partial<OccurrenceView> = {},
): OccurrenceView =>
  work(title, from, {
    kind: 'lesson',
    handIn: 'nothing',
    due: null,
    end: { kind: 'instant', at: to, zone: 'Europe/Dublin' },
    ...more,
  });

interface Given {
  session?: Partial<Session>;
  calendars?: CalendarView[];
  occurrences?: OccurrenceView[];
  undated?: OccurrenceView[];
  /** Replies by path, where the ones made here are not what is wanted */
  answers?: Record<string, unknown>;
  links?: ItemView['links'];
}

/**
 * A server over what it is given, in place of `fetch`: it keeps own marks with their versions as the real one
 * does, and refuses a change made on an older version.
 */
export class School {
  readonly asked: { method: string; path: string; body: Record<string, unknown> | undefined }[] = [];
  readonly occurrences: OccurrenceView[];

  constructor(readonly given: Given = {}) {
    this.occurrences = [...(given.occurrences ?? []), ...(given.undated ?? [])];
    globalThis.fetch = (async (
      path: string,
      { method = 'GET', body }: { method?: string; body?: string } = {},
    ) => {
      const sent = body === undefined ? undefined : (JSON.parse(body) as Record<string, unknown>);
      this.asked.push({ method, path, body: sent });
      const { status, reply } = this.answer(method, path.split('?')[0]!, sent);
      // Nothing comes in the same turn over a network.
      await Promise.resolve();
      return { ok: status < 400, status, json: async () => JSON.parse(JSON.stringify(reply)) as unknown };
    }) as unknown as typeof fetch;
  }

  /** What was asked to be changed, each as its path and what was sent. */
  get changes(): [string, unknown][] {
    return this.asked.filter((a) => a.method !== 'GET').map(({ path, body }) => [path, body]);
  }

  private answer(
    method: string,
    path: string,
    body: Record<string, unknown> | undefined,
  ): { status: number; reply: unknown } {
    const set = this.given.answers?.[path];
    if (set !== undefined)
      return set instanceof Refused
        ? {
            status: set.status,
            reply: { type: 'urn:zephyrfield:refused', ...set.problem, status: set.status },
          }
        : { status: 200, reply: set };
    const [, id, layer] = /^\/api\/items\/([^/]+)(\/layer|\/person-layer)?$/.exec(path) ?? [];
    if (id && layer && method === 'PATCH')
      return this.mark(id, body!, layer === '/layer' ? 'version' : 'personVersion');
    if (id) return { status: 200, reply: this.item(id) };
    const { session, calendars = [CERAMICS, BOATS], undated = [] } = this.given;
    const isUndated = (o: OccurrenceView) => undated.some((u) => u.itemId === o.itemId);
    const all: Record<string, unknown> = {
      '/api/session': {
        person: { id: 'p', name: learner.name, email: 'juno@skerrow.example' },
        settings: DEFAULT_SETTINGS,
        learners: [learner],
        empty: false,
        demo: false,
        now: NOW,
        ...session,
      },
      '/api/learners/juno/calendars': calendars,
      '/api/learners/juno/occurrences': this.occurrences.filter((o) => !isUndated(o)),
      '/api/learners/juno/undated': this.occurrences.filter(isUndated),
      '/api/learners/juno/changes': [],
      '/api/learners/juno/own': { written: [], occurrences: [] },
      '/api/notices': { notices: [], unseen: 0 },
    };
    return path in all
      ? { status: 200, reply: all[path] }
      : {
          status: 404,
          reply: { type: 'urn:zephyrfield:not-found', title: `There is no ${path}.`, status: 404 },
        };
  }

  private mark(
    id: string,
    { version, recurrenceId, ...change }: Record<string, unknown>,
    counter: 'version' | 'personVersion',
  ): { status: number; reply: unknown } {
    const index = this.occurrences.findIndex((o) => o.itemId === id && o.recurrenceId === recurrenceId);
    const before = this.occurrences[index]!;
    if (before[counter] !== version)
      return {
        status: 409,
        reply: {
          type: 'urn:zephyrfield:changed-meanwhile',
          title: 'Somebody else changed this a moment ago.',
          status: 409,
        },
      };
    const next = {
      ...editOccurrence(before, change as ShownEdit, Date.parse(NOW)),
      [counter]: before[counter] + 1,
    };
    this.occurrences[index] = next;
    return { status: 200, reply: next };
  }

  private item(id: string): Partial<ItemView> {
    return {
      occurrence: this.occurrences.find((o) => o.itemId === id)!,
      description: [],
      links: this.given.links ?? [],
      history: [],
      records: [],
      photos: [],
    };
  }
}

/** An answer that is none. */
export class Refused {
  constructor(
    readonly status: number,
    readonly problem: { title: string; remedy?: string },
  ) {}
}
