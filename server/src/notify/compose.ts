import { keyOf } from '@zephyrfield/core/item/occurrence';
import type { LearnerSheet } from '@zephyrfield/core/api/notify';
import { itemPath, noticePath, sheetPath } from '@zephyrfield/core/notify/links';
import { moreWords, sheetHidden, sheetsLead, LONGEST_SUBJECT } from '@zephyrfield/core/notify/day-sheet';
import { firstName, plural } from '@zephyrfield/core/words/text';
import { ANSWER_ABOVE } from '@zephyrfield/core/notify/mail-answer';
import { LAGOON, QUIET, escape, frame, type Mail } from '../mail/frame.ts';
import type { DeliveryRow } from './store.ts';

const page = (body: string, base: string) =>
  frame(
    body,
    `You asked Zephyrfield for these mails. <a style="color:${LAGOON}" href="${escape(base)}/notice-settings">Change your notices</a>`,
  );

/** Way in which a mail names whose and what something is. */
export interface Names {
  /** The learner's first name; null where the reader has only one */
  learner(learnerId: string): string | null;
  /** Empty where it is not known any more */
  calendar(learnerId: string, calendarId: string): string;
  /** Gives what is said of it to who reads it today */
  line(row: DeliveryRow): string;
}

/** Tells whose it is and in which calendar: `Juno · Boatbuilding`. */
const whereOf = (row: DeliveryRow, { learner, calendar }: Names) =>
  [learner(row.learnerId), row.calendarId ? calendar(row.learnerId, row.calendarId) : null]
    .filter(Boolean)
    .join(' · ');

const foot = (base: string) => `\n-- \nChange your notices: ${base}/notice-settings\n`;
const textOf = (rows: readonly DeliveryRow[], names: Names, base: string) =>
  rows.map((r) => {
    const where = whereOf(r, names);
    return `${where ? `${where}: ` : ''}${r.title}\n${names.line(r)}\n${base}${noticePath(r)}\n`;
  });
const htmlOf = (rows: readonly DeliveryRow[], names: Names, base: string) =>
  rows
    .map((r) => {
      const where = whereOf(r, names);
      return `<p style="margin:0 0 20px">${where ? `<span style="color:${QUIET};font-size:14px">${escape(where)}</span><br>` : ''}<a style="color:${LAGOON};font-weight:bold" href="${escape(base + noticePath(r))}">${escape(r.title)}</a><br>${escape(names.line(r))}</p>`;
    })
    .join('');
/** A head is one line, whatever a feed calls its things. */
/** A subject that phones show whole: what matters stands in its first words. */
function subjectOf(words: string): string {
  const plain = words.replace(/\s+/g, ' ').trim();
  return plain.length > LONGEST_SUBJECT ? `${plain.slice(0, LONGEST_SUBJECT - 2).trimEnd()} …` : plain;
}

/** Reminders and news as a mail: one by itself, or several in one. */
export function composeNotices(rows: readonly DeliveryRow[], names: Names, base: string): Mail {
  const [first] = rows as [DeliveryRow, ...DeliveryRow[]];
  const isOfOne = rows.every((r) => r.learnerId === first.learnerId);
  const who = isOfOne ? names.learner(first.learnerId) : null;
  const subject =
    (who ? `${who}: ` : '') +
    (rows.length === 1
      ? `${first.title}: ${names.line(first)}`
      : `${plural(rows.length, 'thing')} to know: ${rows.map((r) => r.title).join(', ')}`);
  return {
    subject: subjectOf(subject),
    text: textOf(rows, names, base).join('\n') + foot(base),
    html: page(htmlOf(rows, names, base), base),
  };
}

/** Gives what else there is to know at the hour of a sheet, and is not said in it. */
function besides(rows: readonly DeliveryRow[], sheets: readonly LearnerSheet[]): DeliveryRow[] {
  const said = new Set(
    sheets.flatMap(({ sheet }) => sheet.sections.flatMap((s) => s.lines.map((l) => keyOf(l)))),
  );
  return rows.filter(({ itemId, recurrenceId }) => !itemId || !said.has(keyOf({ itemId, recurrenceId })));
}

/**
 * A sheet as a mail: the same words as in the app, each thing leading to its page; and what else is to be told
 * at that hour.
 */
export function composeSheet(
  sheets: readonly LearnerSheet[],
  rows: readonly DeliveryRow[],
  names: Names,
  base: string,
): Mail {
  const [first] = sheets as [LearnerSheet, ...LearnerSheet[]];
  const others = besides(rows, sheets);
  const html = sheets
    .map(({ learnerId, name, sheet }) => {
      const line = (l: LearnerSheet['sheet']['sections'][number]['lines'][number]) => {
        const more = [l.more, names.calendar(learnerId, l.calendarId)].filter(Boolean).join(' · ');
        return `<p style="margin:0 0 6px">${l.when ? `<b>${escape(l.when)}</b> ` : ''}<a style="color:${LAGOON}" href="${escape(base + itemPath(l.itemId, l.recurrenceId, learnerId))}">${escape(l.title)}</a>${more ? ` <span style="color:${QUIET}">${escape(more)}</span>` : ''}</p>`;
      };
      const sections = sheet.sections.map(
        (s) =>
          `<h3 style="margin:16px 0 4px;font-size:16px">${escape(s.heading)}</h3>${s.lines.map(line).join('')}${s.more ? `<p style="margin:0 0 6px">${moreWords(s.more)}</p>` : ''}`,
      );
      const says = (words: string) => (words ? `<p style="margin:8px 0">${escape(words)}</p>` : '');
      return `<h2 style="margin:0 0 4px;font-size:22px">${escape(firstName(name))}: ${escape(sheet.title)}</h2>${says(sheet.nothing)}${sections.join('')}${says(sheetHidden(sheet.hidden))}`;
    })
    .join('<hr style="border:0;border-top:1px solid #D3DBD0;margin:24px 0">');
  const also = others.length
    ? `<hr style="border:0;border-top:1px solid #D3DBD0;margin:24px 0"><h2 style="margin:0 0 8px;font-size:22px">Also</h2>${htmlOf(others, names, base)}`
    : '';
  const text =
    sheets.map((b) => b.text).join('\n\n') +
    (others.length ? `\nAlso\n\n${textOf(others, names, base).join('\n')}` : '') +
    `\n-- \nIn Zephyrfield: ${base}${sheetPath(first.sheet.edition, first.sheet.day)}\nChange your notices: ${base}/notice-settings\n`;
  return { subject: subjectOf(sheetsLead(sheets)), text, html: page(html + also, base) };
}

/** A note as a mail says it. */
export interface MailedNote {
  threadId: string;
  by: string;
  learner: string;
  about: string | null;
  text: string;
  files: readonly string[];
}

/**
 * A note as a mail of its own: all of it, and where it can be answered from the mail, a line above which the answer goes.
 * @param replyTo the address that an answer goes to; null where answers by mail are not taken
 */
export function composeNote(note: MailedNote, base: string, replyTo: string | null): Mail {
  const { threadId, by, learner, about, text, files } = note;
  const where = [firstName(learner), about].filter(Boolean).join(' · ');
  const link = `${base}/notes?thread=${threadId}`;
  const along = files.length ? `With it: ${files.join(', ')}.` : '';
  const how = replyTo ? 'Answer this mail, or read it in Zephyrfield:' : 'Answer in Zephyrfield:';
  const lines = text
    .split('\n')
    .map((line) => escape(line))
    .join('<br>');
  return {
    subject: subjectOf(`${by}, about ${where}`),
    text: `${replyTo ? `${ANSWER_ABOVE}\n\n` : ''}${by} wrote about ${where}:\n\n${text}\n\n${along ? `${along}\n\n` : ''}${how} ${link}\n${foot(base)}`,
    html: page(
      `${replyTo ? `<p style="color:${QUIET};font-size:14px">${ANSWER_ABOVE}</p>` : ''}<p style="color:${QUIET};font-size:14px">${escape(by)} wrote about ${escape(where)}</p><p style="margin:0 0 20px">${lines}</p>${along ? `<p style="color:${QUIET}">${escape(along)}</p>` : ''}<p>${how.replace(' in Zephyrfield:', '')} <a style="color:${LAGOON};font-weight:bold" href="${escape(link)}">in Zephyrfield</a></p>`,
      base,
    ),
    ...(replyTo === null ? {} : { replyTo }),
  };
}
