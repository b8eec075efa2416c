import { MODES, type CampusDate, type CampusEntry } from './feed.ts';
import type { FeedState } from './state.ts';

const escape = (text: string) => text.replace(/[&<>"]/g, (c) => `&#${c.charCodeAt(0)};`);

export const standsAt = (entry: CampusEntry): CampusDate | undefined => entry.due ?? entry.start;

/** Gives what a date input shows of a date; times written in UTC are shown in UTC and labelled so. */
function fields(date: CampusDate | undefined): { date: string; time: string; zone: string } {
  if (!date) return { date: '', time: '', zone: '' };
  if (date.kind === 'date') return { date: date.date, time: '', zone: 'whole day' };
  const text = date.kind === 'utc' ? date.at : date.local;
  return { date: text.slice(0, 10), time: text.slice(11, 16), zone: date.kind === 'utc' ? 'UTC' : date.tzid };
}

function row(path: string, entry: CampusEntry, index: number): string {
  const { date, time, zone } = fields(standsAt(entry));
  const title = escape(entry.title);
  const id = `${path}-${index}`;
  return `<li>
  <form method="post" action="/desk/${path}/move">
    <input type="hidden" name="index" value="${index}">
    <label for="title-${id}">Title</label><input id="title-${id}" name="title" value="${title}" size="34">
    <label for="date-${id}">Date</label><input id="date-${id}" type="date" name="date" value="${date}" required>
    ${time ? `<label for="time-${id}">Time</label><input id="time-${id}" type="time" name="time" value="${time}" required>` : ''}
    <span>${escape(zone)}${entry.rule ? ', repeats' : ''}${entry.status === 'CANCELLED' ? ', called off' : ''}</span>
    <button aria-label="Save ${title}">Save</button>
    <button formaction="/desk/${path}/call-off" aria-label="Call off ${title}">Call off</button>
    <button formaction="/desk/${path}/remove" aria-label="Remove ${title}">Remove</button>
  </form></li>`;
}

const STYLE = `body{font:16px/1.5 system-ui,sans-serif;margin:0 auto;max-width:72rem;padding:1.5rem;color:#15262b;background:#f7f5ee}
h1{font-size:1.6rem}form{display:flex;flex-wrap:wrap;gap:.5rem;align-items:center;padding:.35rem 0}ul{list-style:none;padding:0}
li{border-top:1px solid #d8d3c4}input,select,button{font:inherit;padding:.35rem .5rem;border:1px solid #8a8677;border-radius:4px;background:#fff}
button{cursor:pointer;background:#ece7d8}details{background:#fff;border:1px solid #d8d3c4;border-radius:6px;padding:.6rem 1rem;margin:.8rem 0}
summary{cursor:pointer;font-weight:600}li label{position:absolute;left:-999rem}span{color:#4d5a52}code{background:#ece7d8;padding:.1rem .3rem}.said{background:#dfeee6;padding:.6rem 1rem;border-radius:6px}`;

/** The teacher's desk: a page where one changes what the feeds say. */
export function deskPage(feeds: readonly FeedState[], origin: string, said: string, open: string): string {
  const sections = feeds.map(({ feed, mode }) => {
    const link = `${origin}/feeds/${feed.path}.ics${feed.key ? `?key=${feed.key}` : ''}`;
    const modes = Object.entries(MODES).map(
      ([name, words]) => `<option value="${name}"${name === mode ? ' selected' : ''}>${words}</option>`,
    );
    return `<details${open === feed.path ? ' open' : ''}><summary>${escape(feed.name)} · ${feed.entries.length} entries · ${MODES[mode]}</summary>
<p>Link: <code>${escape(link)}</code></p>
<form method="post" action="/desk/${feed.path}/mode"><label for="mode-${feed.path}">This feed</label><select id="mode-${feed.path}" name="mode">${modes.join('')}</select><button>Set</button></form>
<form method="post" action="/desk/${feed.path}/add"><label for="new-${feed.path}">New work</label><input id="new-${feed.path}" name="title" required maxlength="200"><label for="newdate-${feed.path}">due</label><input id="newdate-${feed.path}" name="date" type="date" required><button>Add</button></form>
<ul>${feed.entries.map((e, i) => row(feed.path, e, i)).join('')}</ul></details>`;
  });
  return `<!doctype html><html lang="en"><meta charset="utf-8"><meta name="viewport" content="width=device-width"><title>Teacher’s desk</title><style>${STYLE}</style>
<h1>Campus: the teacher’s desk</h1><p>What is changed here, the feeds say from now on. In Zephyrfield, check the link to see it arrive.</p>
${said ? `<p class="said" role="status">${escape(said)}</p>` : ''}${sections.join('\n')}</html>`;
}
