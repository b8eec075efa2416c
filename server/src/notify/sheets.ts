import type { LearnerSheet } from '@zephyrfield/core/api/notify';
import type { ChangeView, OccurrenceView } from '@zephyrfield/core/api/schemas';
import { sheetsLead, sheetText, daySheet, type PlanSections } from '@zephyrfield/core/notify/day-sheet';
import { afterQuiet, type SheetMoment } from '@zephyrfield/core/notify/settings';
import { COUNTS_BACK } from '@zephyrfield/core/view/entry';
import { DAY } from '@zephyrfield/core/time/civil';
import type { Recipient } from './recipient.ts';
import type { NotifyStore, NewDelivery } from './store.ts';

export interface SheetDeps {
  store: NotifyStore;
  learnersOf(personId: string): { id: string; name: string }[];
  occurrences(learnerId: string, personId: string, from: number, to: number): OccurrenceView[];
  changes(learnerId: string, personId: string): ChangeView[];
  /** Moment when it was brought back from a backup: sheets of before may have been sent, and stand in the app alone */
  restoredAt: number;
  /** Gives what is planned of a learner's work, as parts of a sheet for somebody */
  plan(
    learnerId: string,
    personId: string,
    at: { edition: SheetMoment['edition']; day: number; now: number },
  ): PlanSections | undefined;
}

/** Days ahead that a sheet looks: over the week. */
const AHEAD = 10;

/** Sheets of a day: worked out when they are read, so that they say what stands then. */
export function sheetMaker({ store, learnersOf, occurrences, changes, plan: planOf, restoredAt }: SheetDeps) {
  function of(
    { personId, viewer }: Recipient,
    edition: SheetMoment['edition'],
    day: number,
    now: number,
  ): LearnerSheet[] {
    return learnersOf(personId).map(({ id, name }) => {
      const calendars = store.calendarsOf(id);
      const seen = occurrences(id, personId, (day - COUNTS_BACK - 1) * DAY, (day + AHEAD) * DAY);
      const plan = planOf(id, personId, { edition, day, now });
      const sheet = daySheet(seen, changes(id, personId), {
        edition,
        day,
        now,
        viewer,
        ...(plan ? { plan } : {}),
      });
      return {
        learnerId: id,
        name,
        sheet,
        text: sheetText(sheet, name, (c) => calendars.find((x) => x.id === c)?.name ?? ''),
      };
    });
  }

  /** The rows of a sheet that has come due: it says how much there is, and leads to the whole. */
  function rows(recipient: Recipient, { at, edition, day }: SheetMoment, now: number): NewDelivery[] {
    const { personId, noticeSettings, viewer } = recipient;
    const useBy = at + (edition === 'week' ? 24 : 10) * 3_600_000;
    if (useBy < now) return [];
    const all = of(recipient, edition, day, now);
    const [first] = all;
    if (!first) return [];
    const line = sheetsLead(all);
    return noticeSettings.all.sheet.flatMap((channel): NewDelivery[] => {
      const notBefore = channel === 'app' ? now : afterQuiet(now, noticeSettings.quiet, viewer);
      if (notBefore > useBy || (channel !== 'app' && at <= restoredAt)) return [];
      const common = {
        personId,
        learnerId: first.learnerId,
        channel,
        kind: 'sheet' as const,
        itemId: null,
        recurrenceId: '',
        calendarId: null,
        anchor: null,
        at,
        useBy,
        notBefore,
      };
      return [
        {
          ...common,
          cause: 'sheet' as const,
          causeId: edition,
          moment: day * DAY,
          title: first.sheet.title,
          line,
          sheet: { edition, day: first.sheet.day },
          state: channel === 'app' ? 'sent' : 'waiting',
          sentAt: channel === 'app' ? now : null,
        },
      ];
    });
  }

  return {
    of,
    rows,
    firstLearner: (personId: string) => learnersOf(personId)[0]?.id ?? null,
    learnersOf: (personId: string) => learnersOf(personId).map((l) => l.id),
  };
}
export type SheetMaker = ReturnType<typeof sheetMaker>;
