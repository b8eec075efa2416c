import { changeWords, type ChangeView } from '../item/change.ts';
import type { OccurrenceView } from '../item/occurrence.ts';
import { DAY, formatDate } from '../time/civil.ts';
import { dayIn, instantIn } from '../time/when.ts';
import { agendaEntry, entryOrder, type AgendaEntry } from '../view/agenda.ts';
import {
  hoursWords,
  clockTime,
  daysWords,
  longDay,
  shortDay,
  spanWords,
  type Viewer,
} from '../words/when.ts';
import { HAND_IN_WORDS } from '../item/words.ts';
import type { SheetEdition } from './settings.ts';

export interface SheetLine {
  /** When, in few words; empty where the heading says it */
  when: string;
  title: string;
  more: string;
  calendarId: string;
  itemId: string;
  recurrenceId: string;
}

export interface DaySheet {
  edition: SheetEdition;
  /** The day it is for, as `2026-10-06` */
  day: string;
  title: string;
  sections: { heading: string; lines: SheetLine[] }[];
}

export interface SheetOptions {
  edition: SheetEdition;
  day: number;
  now: number;
  viewer: Viewer;
}

/**
 * What a day asks for, said once: where to be, what is due today and tomorrow, what moved, what to do
 * tonight. In the evening it looks at tomorrow, on Sundays at the week. Parts with nothing in them are left
 * out.
 */
export function daySheet(
  occurrences: readonly OccurrenceView[],
  changes: readonly ChangeView[],
  { edition, day, now, viewer }: SheetOptions,
): DaySheet {
  const order = entryOrder(viewer);
  const all = occurrences
    .filter((o) => o.status !== 'cancelled' && !o.hidden && !o.undated)
    .map((o) => agendaEntry(o, now, viewer));
  const open = all
    .filter((e) => e.urgency !== null && e.urgency !== 'finished')
    .sort((a, b) => a.day - b.day || order(a, b));
  const dueOn = (d: number) =>
    open.filter((e) => e.day === d && e.urgency !== 'unsettled' && e.urgency !== 'pastDue');
  const placesOn = (d: number) =>
    all
      .filter((e) => e.urgency === null && e.shape !== 'ribbon' && e.day === d)
      .sort((a, b) => instantIn(a.occurrence.start, viewer) - instantIn(b.occurrence.start, viewer));
  const line = (e: AgendaEntry, withDay = false): SheetLine => {
    const { occurrence: o } = e;
    const hour =
      e.urgency !== null && o.due
        ? o.due.kind === 'date'
          ? ''
          : clockTime(o.due, viewer)
        : o.start.kind === 'date'
          ? ''
          : spanWords(o.start, o.end, viewer);
    const more =
      e.urgency === null
        ? o.place
        : [o.handIn === 'unknown' ? '' : HAND_IN_WORDS[o.handIn], o.estimate ? hoursWords(o.estimate) : '']
            .filter(Boolean)
            .join(' · ');
    return {
      when: [withDay ? shortDay(e.day) : '', hour].filter(Boolean).join(' '),
      title: o.title,
      more,
      calendarId: o.calendarId,
      itemId: o.itemId,
      recurrenceId: o.recurrenceId,
    };
  };
  const moved = changes
    .filter((c) => c.kind !== 'reworded' && Date.parse(c.at) > now - (edition === 'week' ? 7 : 1) * DAY)
    .slice(0, 12)
    .map((c): SheetLine => ({
      when: '',
      title: c.title,
      more: changeWords(c, viewer),
      calendarId: c.calendarId,
      itemId: c.itemId,
      recurrenceId: c.recurrenceId,
    }));
  const pastDue = open.filter((e) => e.urgency === 'pastDue');
  const aimed = (d: number) =>
    open.filter(
      (e) => e.urgency !== 'pastDue' && e.day > d && e.occurrence.aim && dayIn(e.occurrence.aim, viewer) <= d,
    );
  const tonight = [...pastDue, ...dueOn(day), ...dueOn(day + 1), ...aimed(day)];
  const lines = (entries: readonly AgendaEntry[], withDay = false) => entries.map((e) => line(e, withDay));

  const sections: DaySheet['sections'] = [];
  const put = (heading: string, list: SheetLine[]) => list.length && sections.push({ heading, lines: list });
  if (edition === 'week') {
    put('Past due', lines(pastDue, true));
    for (let d = day + 1; d <= day + 7; d++) {
      // Lessons are known; what is not every week is what a week's sheet is for.
      put(longDay(d), lines([...dueOn(d), ...placesOn(d).filter((e) => e.occurrence.kind !== 'lesson')]));
    }
  } else {
    const ahead = edition === 'evening' ? day + 1 : day;
    if (edition === 'evening') put('Still due today', lines(dueOn(day)));
    put(
      edition === 'evening' ? `Tomorrow, ${longDay(ahead)}: where to be` : 'Where to be',
      lines(placesOn(ahead)),
    );
    if (edition === 'morning') put('Due today', lines(dueOn(day)));
    put('Due tomorrow', lines(dueOn(day + 1)));
    put('Past due', lines(pastDue, true));
    put('To do tonight', lines(tonight, true).slice(0, 6));
  }
  put('What changed', moved);
  const title =
    edition === 'week'
      ? `The week of ${daysWords(day + 1, day + 7)}`
      : `${edition === 'morning' ? 'Today' : 'Tonight'}, ${longDay(day)}`;
  return { edition, day: formatDate(day), title, sections };
}

/** The first words of a sheet, for a notice: what counts most. */
export function sheetLead({ sections }: DaySheet): string {
  if (!sections.length) return 'Nothing is due, and nothing has moved.';
  return sections.map((s) => `${s.heading.split(':')[0]}: ${s.lines.length}`).join(' · ');
}

/** A sheet as plain text, to be copied or mailed. */
export function sheetText(
  { title, sections }: DaySheet,
  name: string,
  calendarName: (id: string) => string,
): string {
  const line = (l: SheetLine) =>
    `- ${[l.when, l.title].filter(Boolean).join('  ')}${l.more ? ` (${l.more})` : ''}${calendarName(l.calendarId) ? `, ${calendarName(l.calendarId)}` : ''}`;
  const body = sections.map((s) => [s.heading, ...s.lines.map(line)].join('\n'));
  return (
    [`${name}: ${title}`, ...(body.length ? body : ['Nothing is due, and nothing has moved.'])].join('\n\n') +
    '\n'
  );
}
