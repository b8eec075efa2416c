import type { LearnerSheet } from '@zephyrfield/core/api/notify';
import { itemPath, noticePath, sheetPath } from '@zephyrfield/core/notify/links';
import { plural } from '@zephyrfield/core/words/text';
import type { DeliveryRow } from './store.ts';

export interface Mail {
  subject: string;
  text: string;
  html: string;
}

const escape = (text: string) => text.replace(/[&<>"']/g, (c) => `&#${c.charCodeAt(0)};`);
const INK = '#15262B';
const QUIET = '#4A5E62';
const LAGOON = '#0B6068';

const frame = (body: string, foot: string) =>
  `<!doctype html><html lang="en"><body style="margin:0;background:#F4F6F0;color:${INK};font:16px/1.5 sans-serif"><div style="max-width:560px;margin:0 auto;padding:24px">${body}<p style="margin-top:32px;border-top:1px solid #D3DBD0;padding-top:12px;color:${QUIET};font-size:14px">${foot}</p></div></body></html>`;
const page = (body: string, base: string) =>
  frame(
    body,
    `You asked Zephyrfield for these mails. <a style="color:${LAGOON}" href="${escape(base)}/notice-settings">Change your notices</a>`,
  );

/** Reminders and news as a mail: one by itself, or several in one. */
export function composeNotices(
  rows: readonly DeliveryRow[],
  nameOf: (learnerId: string) => string | null,
  base: string,
): Mail {
  const who = (row: DeliveryRow) => nameOf(row.learnerId);
  const [first] = rows as [DeliveryRow, ...DeliveryRow[]];
  const subject =
    rows.length === 1 ? `${first.title}: ${first.line}` : `${plural(rows.length, 'thing')} to know`;
  const text =
    rows
      .map((r) => `${who(r) ? `${who(r)}: ` : ''}${r.title}\n${r.line}\n${base}${noticePath(r)}\n`)
      .join('\n') + `\n-- \nChange your notices: ${base}/notice-settings\n`;
  const html = rows
    .map(
      (r) =>
        `<p style="margin:0 0 20px">${who(r) ? `<span style="color:${QUIET};font-size:14px">${escape(who(r)!)}</span><br>` : ''}<a style="color:${LAGOON};font-weight:bold" href="${escape(base + noticePath(r))}">${escape(r.title)}</a><br>${escape(r.line)}</p>`,
    )
    .join('');
  // A head is one line, whatever a feed calls its things.
  return { subject: subject.replace(/\s+/g, ' ').slice(0, 200), text, html: page(html, base) };
}

/** A sheet as a mail: the same words as in the app, each thing leading to its page. */
export function composeSheet(sheets: readonly LearnerSheet[], base: string): Mail {
  const [first] = sheets as [LearnerSheet, ...LearnerSheet[]];
  const html = sheets
    .map(({ name, sheet }) => {
      const sections = sheet.sections.map(
        (s) =>
          `<h3 style="margin:16px 0 4px;font-size:16px">${escape(s.heading)}</h3>${s.lines.map((l) => `<p style="margin:0 0 6px">${l.when ? `<b>${escape(l.when)}</b> ` : ''}<a style="color:${LAGOON}" href="${escape(base + itemPath(l.itemId, l.recurrenceId))}">${escape(l.title)}</a>${l.more ? ` <span style="color:${QUIET}">${escape(l.more)}</span>` : ''}</p>`).join('')}`,
      );
      return `<h2 style="margin:0 0 4px;font-size:22px">${escape(name.split(' ')[0]!)}: ${escape(sheet.title)}</h2>${sections.join('') || '<p>Nothing is due, and nothing has moved.</p>'}`;
    })
    .join('<hr style="border:0;border-top:1px solid #D3DBD0;margin:24px 0">');
  const text =
    sheets.map((b) => b.text).join('\n\n') +
    `\n-- \nIn Zephyrfield: ${base}${sheetPath(first.sheet.edition, first.sheet.day)}\nChange your notices: ${base}/notice-settings\n`;
  return { subject: first.sheet.title, text, html: page(html, base) };
}

/**
 * The mail that confirms an address. It says nothing that whoever made the account has typed: it may go to a
 * stranger.
 */
export function composeConfirmation(token: string, base: string): Mail {
  const link = `${base}/confirm#${token}`;
  const ignore =
    'If you did not make an account with Zephyrfield, there is nothing to do: no more mail will come.';
  return {
    subject: 'Confirm your mail address',
    text: `Open this link to have Zephyrfield send mail to this address. It is good once, for an hour.\n\n${link}\n\n${ignore}\n`,
    html: frame(
      `<p>Open this link to have Zephyrfield send mail to this address. It is good once, for an hour.</p><p><a style="color:${LAGOON};font-weight:bold" href="${escape(link)}">Confirm my address</a></p>`,
      ignore,
    ),
  };
}
