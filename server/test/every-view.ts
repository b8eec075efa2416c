/** Asks for an address of the API, as somebody who is signed in. */
export type Ask = (path: string) => Promise<{ status: number; body: unknown }>;
type Named = { id: string };

const TERM = 'from=2026-08-31T00:00:00Z&to=2026-12-19T00:00:00Z';
const DAYS = 'from=2026-08-31&to=2026-12-19';
const OF_LEARNER = [
  'calendars',
  'sources',
  'changes',
  'questions',
  'texts',
  `occurrences?${TERM}`,
  'undated',
  'plan',
  'crew',
  'shares',
  'publications',
  'offers',
  'open-times',
  'outlines',
  'note-people',
  'timer',
];
const OF_PERSON = [
  'briefs',
  'notices',
  'notice-settings',
  'learners-table',
  'open-times',
  'notes?box=all',
  'notes?box=sent',
];
/** Items of each schedule that are asked for one by one. */
const ITEMS = 40;

/**
 * Asks for all that somebody sees in their places, and gives it by what was asked for. Two versions of the server over the
 * same installation answer alike, but for what is of the moment.
 */
export async function everyView(ask: Ask): Promise<Record<string, unknown>> {
  const views: Record<string, unknown> = {};
  const see = async (path: string) => {
    const { status, body } = await ask(`/api/${path}`);
    // Not all may see all of it: that somebody is refused is part of what they see.
    return (views[path] = status === 200 ? withoutMoment(body) : { refused: status });
  };
  const session = (await see('session')) as { learners: Named[] };
  for (const path of OF_PERSON) await see(path);
  for (const { id } of session.learners) {
    for (const path of OF_LEARNER) await see(`learners/${id}/${path}`);
    const occurrences = views[`learners/${id}/occurrences?${TERM}`] as { itemId: string }[];
    const items = [...new Set(occurrences.map((o) => o.itemId))].slice(0, ITEMS);
    for (const item of items) await see(`items/${item}`);
    for (const item of items.slice(0, 5)) await see(`items/${item}/notes`);
    for (const { id: calendar, handMade } of views[`learners/${id}/calendars`] as (Named & {
      handMade: boolean;
    })[])
      if (handMade && !calendar.startsWith('busy ')) await see(`calendars/${calendar}/own`);
    for (const { id: outline } of views[`learners/${id}/outlines`] as Named[])
      await see(`outlines/${outline}?${DAYS}`);
  }
  return views;
}

/** Says when it was asked for, how a followed link does just now, or of what kind the server is. */
const OF_THE_MOMENT = new Set(['now', 'nextCheck', 'sessions', 'demo', 'open', 'ready']);
export const withoutMoment = (value: unknown): unknown =>
  Array.isArray(value)
    ? value.map(withoutMoment)
    : value && typeof value === 'object'
      ? Object.fromEntries(
          Object.entries(value)
            .filter(([key]) => !OF_THE_MOMENT.has(key))
            .map(([key, each]) => [key, withoutMoment(each)]),
        )
      : value;
