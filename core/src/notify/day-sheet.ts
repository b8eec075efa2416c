import { changeWords, type ChangeView } from '../item/change.ts';
import type { OccurrenceView } from '../item/occurrence.ts';
import { DAY, formatDate } from '../time/civil.ts';
import { dayIn, instantIn } from '../time/when.ts';
import { agendaEntry, type AgendaEntry } from '../view/entry.ts';
import {
  hoursWords,
  clockTime,
  dueDay,
  daysWords,
  longDay,
  shortDay,
  spanWords,
  type Viewer,
} from '../words/when.ts';
import { HAND_IN_WORDS } from '../item/words.ts';
import { firstName, plural } from '../words/text.ts';
import { CLOSED_STAYS, CLOSED_WORDS, SETTLE_WORDS, workOf } from '../view/work.ts';
import type { SheetEdition } from './settings.ts';

export interface SheetLine {
  /** Time in few words; empty where the heading says it */
  when: string;
  title: string;
  more: string;
  calendarId: string;
  itemId: string;
  recurrenceId: string;
}

export interface SheetSection {
  heading: string;
  lines: SheetLine[];
  /** Number of those that are not written down */
  more: number;
}

export interface DaySheet {
  edition: SheetEdition;
  /** The day it is for, as `2026-10-06` */
  day: string;
  title: string;
  /** That there is nothing to do, said plainly; empty where there is something */
  nothing: string;
  /** The most important in a few words: how much there is to do and what comes first */
  lead: string;
  sections: SheetSection[];
  /** Number of single items hidden by the person that would stand here */
  hidden: number;
}

/** Planned sittings and broken plans, as parts of a sheet. */
export interface PlanSections {
  /** Sittings still to come that day, and plans that no longer hold: with one of them, the day is not free */
  now: readonly SheetSection[];
  /** Sittings of the day after it */
  next: readonly SheetSection[];
}
const NO_PLAN: PlanSections = { now: [], next: [] };

export interface SheetOptions {
  edition: SheetEdition;
  day: number;
  now: number;
  viewer: Viewer;
  /** Planned sittings and broken plans (see `plan/plan-sheet`) */
  plan?: PlanSections;
}

/** Number of lines of a kind that are read; the rest is counted. */
const MOST = { todo: 12, pastDue: 6, toSettle: 6, closed: 6, changes: 12 } as const;

/**
 * Demands of a day, each thing said once: what to do tonight first, where to be, what is past due, what
 * moved. The evening's looks at tonight and tomorrow, the morning's at the day, the week's at Sunday evening
 * and the seven days after it. Parts with nothing in them are left out, but that there is nothing to do is
 * said.
 */
export function daySheet(
  occurrences: readonly OccurrenceView[],
  changes: readonly ChangeView[],
  options: SheetOptions,
): DaySheet {
  const { edition, day, now, viewer, plan = NO_PLAN } = options;
  const { sections, todo } = sectionsOf(
    occurrences.filter((o) => !o.hidden),
    options,
  );
  const held = sectionsOf(
    occurrences.filter((o) => o.hidden),
    options,
  ).sections;
  const moved = changes
    .filter((c) => c.kind !== 'reworded' && Date.parse(c.at) > now - (edition === 'week' ? 7 : 1) * DAY)
    .map((c): SheetLine => ({
      when: '',
      title: c.title,
      more: changeWords(c, viewer),
      calendarId: c.calendarId,
      itemId: c.itemId,
      recurrenceId: c.recurrenceId,
    }));
  sections.push(...plan.now, ...plan.next);
  if (moved.length) sections.push(cut('What changed', moved, MOST.changes));
  return {
    edition,
    day: formatDate(day),
    title:
      edition === 'week'
        ? `The week of ${daysWords(day + 1, day + 7)}`
        : `${edition === 'morning' ? 'Today' : 'Tonight'}, ${longDay(day)}`,
    nothing: todo.length || plan.now.length ? '' : NOTHING[edition],
    lead: leadOf(edition, todo, [...sections]),
    sections,
    hidden: held.reduce((sum, s) => sum + s.lines.length + s.more, 0),
  };
}

const NOTHING: Record<SheetEdition, string> = {
  morning: 'Nothing is due today.',
  evening: 'Nothing to do tonight: nothing is due today or tomorrow.',
  week: 'Nothing is due this week.',
};

const cut = (heading: string, lines: SheetLine[], most: number): SheetSection => ({
  heading,
  lines: lines.slice(0, most),
  more: Math.max(0, lines.length - most),
});

/** Works out the parts of a sheet, and what it asks to be done but for what is past due. */
function sectionsOf(
  occurrences: readonly OccurrenceView[],
  { edition, day, now, viewer }: SheetOptions,
): { sections: SheetSection[]; todo: SheetLine[] } {
  const all = occurrences
    .filter((o) => o.status !== 'cancelled' && !o.undated)
    .map((o) => agendaEntry(o, now, viewer));
  const work = workOf(occurrences, { now, viewer });
  const ahead = [...work.tonight, ...work.ahead];
  const dueOn = (d: number) => ahead.filter((e) => e.day === d);
  const aimOf = ({ occurrence: { aim } }: AgendaEntry) => aim && dueDay(aim, viewer);
  const aimWords = (e: AgendaEntry) => (aimOf(e) === day ? 'today' : shortDay(aimOf(e)!));
  const aimed = ahead.filter((e) => e.day > day + 1 && (aimOf(e) ?? Infinity) <= day);
  const placesOn = (d: number) =>
    all
      .filter((e) => e.urgency === null && e.shape !== 'ribbon' && e.day === d)
      .sort((a, b) => instantIn(a.occurrence.start, viewer) - instantIn(b.occurrence.start, viewer));
  const line = (e: AgendaEntry, dayWords = '') => sheetLine(e, dayWords, viewer);
  const plain = (entries: readonly AgendaEntry[]) => entries.map((e) => line(e));
  const tonight = [
    ...dueOn(day).map((e) => line(e, 'today')),
    ...aimed.map((e) => line(e, `aim ${aimWords(e)}, due ${shortDay(e.day)}`)),
    ...dueOn(day + 1).map((e) => line(e, 'tomorrow')),
  ];
  const sections: SheetSection[] = [];
  const put = (heading: string, lines: SheetLine[], most = Infinity) =>
    lines.length && sections.push(cut(heading, lines, most));
  let todo = tonight;
  if (edition === 'morning') {
    todo = plain(dueOn(day));
    put('Where to be', plain(placesOn(day)));
    put('Due today', todo, MOST.todo);
    put('Due tomorrow', plain(dueOn(day + 1)), MOST.todo);
  } else {
    put('To do tonight', tonight, MOST.todo);
    if (edition === 'evening') put(`Tomorrow, ${longDay(day + 1)}: where to be`, plain(placesOn(day + 1)));
    else
      for (let d = day + 1; d <= day + 7; d++) {
        const due = d === day + 1 ? [] : dueOn(d);
        todo = [...todo, ...plain(due)];
        // Lessons are known; what is not every week is what a week's sheet is for.
        put(longDay(d), plain([...due, ...placesOn(d).filter((e) => e.occurrence.kind !== 'lesson')]));
      }
  }
  put(
    PAST_DUE,
    work.pastDue.map((e) => line(e, shortDay(e.day))),
    MOST.pastDue,
  );
  put(
    SETTLE_WORDS,
    [...work.toSettle].reverse().map((e) => line(e, shortDay(e.day))),
    MOST.toSettle,
  );
  put(
    CLOSED_WORDS,
    work.closed.filter((e) => e.day >= day - CLOSED_STAYS).map((e) => line(e, shortDay(e.day))),
    MOST.closed,
  );
  return { sections, todo };
}

function sheetLine(e: AgendaEntry, dayWords: string, viewer: Viewer): SheetLine {
  const { occurrence: o } = e;
  const isWork = e.urgency !== null;
  const at = isWork && o.due ? o.due : o.start;
  const hour = at.kind === 'date' ? '' : isWork ? clockTime(at, viewer) : spanWords(o.start, o.end, viewer);
  const how = o.handIn === 'unknown' ? '' : HAND_IN_WORDS[o.handIn];
  const isNight = isWork && at.kind !== 'date' && e.day < dayIn(at, viewer);
  return {
    when: [isNight ? (dayWords === 'today' ? 'tonight' : `${dayWords} night`.trim()) : dayWords, hour]
      .filter(Boolean)
      .join(' '),
    title: o.title,
    more: isWork ? [how, o.estimate ? hoursWords(o.estimate) : ''].filter(Boolean).join(' · ') : o.place,
    calendarId: o.calendarId,
    itemId: o.itemId,
    recurrenceId: o.recurrenceId,
  };
}

/** Gives what a part that was cut says at its end. */
export const moreWords = (more: number): string => (more ? `and ${more} more` : '');

/** Gives what a sheet says of single items its reader has hidden. */
export const sheetHidden = (hidden: number): string =>
  hidden ? `${plural(hidden, 'single item')} hidden by you ${hidden === 1 ? 'is' : 'are'} left out.` : '';

const PAST_DUE = 'Past due';
const SPAN_WORDS: Record<SheetEdition, string> = { morning: 'today', evening: 'tonight', week: 'this week' };

/** Says how much there is to do and what comes first; what is past due stands behind it. */
function leadOf(
  edition: SheetEdition,
  todo: readonly SheetLine[],
  sections: readonly SheetSection[],
): string {
  const span = SPAN_WORDS[edition];
  const pastDue = sections.find((s) => s.heading === PAST_DUE);
  const late = pastDue ? pastDue.lines.length + pastDue.more : 0;
  const said = todo.length
    ? `${todo.length} to do ${span}: ${todo.map((l) => l.title).join(', ')}`
    : `Nothing ${span}`;
  return late && !todo.length ? `${said}, ${late} past due` : said;
}

/** The longest subject of a mail that phones show whole. */
export const LONGEST_SUBJECT = 80;

/** Says in one line what the sheets of one or more learners ask for, short enough for the subject of a mail. */
export function sheetsLead(sheets: readonly { name: string; sheet: DaySheet }[]): string {
  const [first] = sheets;
  if (!first) return '';
  const all =
    sheets.length === 1
      ? first.sheet.lead
      : sheets.map(({ name, sheet }) => `${firstName(name)}: ${sheet.lead}`).join(' · ');
  return all.length > LONGEST_SUBJECT ? `${all.slice(0, LONGEST_SUBJECT - 2).trimEnd()} …` : all;
}

/** A sheet as plain text, to be copied or mailed. */
export function sheetText(
  { title, nothing, sections, hidden }: DaySheet,
  name: string,
  calendarName: (id: string) => string,
): string {
  const line = (l: SheetLine) =>
    `- ${[l.when, l.title].filter(Boolean).join('  ')}${l.more ? ` (${l.more})` : ''}${calendarName(l.calendarId) ? `, ${calendarName(l.calendarId)}` : ''}`;
  const body = sections.map((s) =>
    [s.heading, ...s.lines.map(line), ...(s.more ? [`- ${moreWords(s.more)}`] : [])].join('\n'),
  );
  return [`${name}: ${title}`, nothing, ...body, sheetHidden(hidden)].filter(Boolean).join('\n\n') + '\n';
}
