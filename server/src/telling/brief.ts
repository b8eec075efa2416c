import type { BriefOfDay } from '@zephyrfield/core/api/remind';
import type { ChangeView, OccurrenceView } from '@zephyrfield/core/api/schemas';
import { briefLead, briefText, dayBrief } from '@zephyrfield/core/remind/day-brief';
import { afterQuiet, type BriefMoment } from '@zephyrfield/core/remind/telling';
import { DAY } from '@zephyrfield/core/time/civil';
import type { Listener } from './collect.ts';
import type { TellingStore, NewDelivery } from './store.ts';

export interface BriefParts {
  store: TellingStore;
  learnersOf(personId: string): { id: string; name: string }[];
  occurrences(learnerId: string, from: number, to: number): OccurrenceView[];
  changes(learnerId: string): ChangeView[];
}

/** How far around a day a brief looks: back for what is past due, ahead over the week. */
const BACK = 45;
const AHEAD = 10;

/** Briefs of a day: worked out when they are read, so that they say what stands then. */
export function briefMaker({ store, learnersOf, occurrences, changes }: BriefParts) {
  function of({ personId, telling, viewer }: Listener, part: BriefMoment['part'], day: number, now: number): BriefOfDay[] {
    return learnersOf(personId).map(({ id, name }) => {
      const calendars = store.calendarsOf(id);
      const muted = new Set(telling.muted.calendars);
      const seen = occurrences(id, (day - BACK) * DAY, (day + AHEAD) * DAY).filter((o) => !muted.has(o.calendarId));
      const brief = dayBrief(seen, changes(id), { part, day, now, viewer });
      return { learnerId: id, name, brief, text: briefText(brief, name, (c) => calendars.find((x) => x.id === c)?.name ?? '') };
    });
  }

  /** The rows of a brief that has come due: it says how much there is, and leads to the whole. */
  function rows(listener: Listener, { at, part, day }: BriefMoment, now: number): NewDelivery[] {
    const { personId, telling, viewer } = listener;
    const useBy = at + (part === 'week' ? 24 : 10) * 3_600_000;
    if (useBy < now) return [];
    const all = of(listener, part, day, now);
    const [first] = all;
    if (!first) return [];
    const line = all.length === 1 ? briefLead(first.brief) : all.map((b) => `${b.name.split(' ')[0]}: ${briefLead(b.brief)}`).join(' — ');
    return telling.all.brief.flatMap((way): NewDelivery[] => {
      const notBefore = way === 'app' ? now : afterQuiet(now, telling.quiet, viewer);
      if (notBefore > useBy) return [];
      const common = { personId, learnerId: first.learnerId, way, news: 'brief' as const, itemId: null, itemKey: '', calendarId: null, anchor: null, at, useBy, notBefore };
      return [{ ...common, key: `${personId}||${way}|b|${part}|${first.brief.day}`, title: first.brief.title, line, brief: { part, day: first.brief.day }, state: way === 'app' ? 'sent' : 'waiting', sentAt: way === 'app' ? now : null }];
    });
  } // prettier-ignore

  return { of, rows, firstLearner: (personId: string) => learnersOf(personId)[0]?.id ?? null };
}
export type BriefMaker = ReturnType<typeof briefMaker>;
