import type { PostedMail } from './mail.ts';

const escape = (text: string) => text.replace(/[&<>"]/g, (c) => `&#${c.charCodeAt(0)};`);

const STYLE = `body{font:16px/1.5 system-ui,sans-serif;margin:0 auto;max-width:56rem;padding:1.5rem;color:#15262b;background:#f7f5ee}
h1{font-size:1.6rem}ol{list-style:none;padding:0}li{background:#fff;border:1px solid #d8d3c4;border-radius:6px;margin:.6rem 0;padding:.6rem 1rem}
a{color:#0b6068;font-weight:600}span{color:#4d5a52}form{display:flex;flex-wrap:wrap;gap:.5rem;align-items:center;margin:.8rem 0}
textarea{width:100%}input,button,textarea{font:inherit;padding:.35rem .5rem;border:1px solid #8a8677;border-radius:4px;background:#fff}button{cursor:pointer;background:#ece7d8}
pre{white-space:pre-wrap;background:#fff;border:1px solid #d8d3c4;border-radius:6px;padding:1rem;font:inherit}`;
const head = (title: string) =>
  `<!doctype html><html lang="en"><meta charset="utf-8"><meta name="viewport" content="width=device-width"><title>${escape(title)}</title><style>${STYLE}</style>`;

/** All mail, the latest first. */
export function postPage(mails: readonly PostedMail[], refused: ReadonlySet<string>, to: string): string {
  const rows = mails
    .map((mail, i) => ({ mail, i }))
    .filter(({ mail }) => !to || mail.to === to)
    .reverse();
  const list = rows.map(
    ({ mail, i }) =>
      `<li><a href="/mails/${i}">${escape(mail.subject)}</a><br><span>to ${escape(mail.to)}${mail.times > 1 ? ` · handed over ${mail.times} times, kept once` : ''}</span><br>${escape(mail.text.split('\n').slice(0, 2).join(' · '))}</li>`,
  );
  const gone = [...refused].map(
    (address) =>
      `<form method="post" action="/refuse"><input type="hidden" name="action" value="take"><input type="hidden" name="address" value="${escape(address)}"><span>${escape(address)} does not exist.</span><button>Let it exist</button></form>`,
  );
  return `${head('Postbox')}<h1>Postbox</h1><p>Every mail ends here. It is sent nowhere.</p>${gone.join('')}
<form method="post" action="/refuse"><label for="address">Let this address not exist</label><input id="address" name="address" type="email" required><button>Refuse its mail</button></form>
<ol>${list.join('') || '<li>Nothing has arrived yet.</li>'}</ol></html>`;
}

/**
 * One mail, as it looks and as plain text; with a field to answer it where it can be answered.
 * @param said what came of the last answer; empty for nothing
 */
export function mailPage(mail: PostedMail, index: number, canBeAnswered: boolean, said: string): string {
  const answer = canBeAnswered
    ? `<form method="post" action="/mails/${index}/answer"><label for="answer">Answer as ${escape(mail.to)}</label><textarea id="answer" name="answer" rows="4" required></textarea><button>Send the answer</button></form>`
    : '';
  const heads = ['message-id', 'list-unsubscribe', 'list-unsubscribe-post'].map(
    (name) => `<br><span>${name}: ${escape(mail.headers[name] ?? '')}</span>`,
  );
  return `${head(mail.subject)}<p><a href="/">Postbox</a></p><h1>${escape(mail.subject)}</h1><p>from ${escape(mail.from)}, to ${escape(mail.to)}${heads.join('')}</p>${said ? `<p role="status"><b>${escape(said)}</b></p>` : ''}${answer}
<iframe title="The mail as it looks" sandbox srcdoc="${escape(mail.html)}" style="width:100%;height:30rem;border:1px solid #d8d3c4;border-radius:6px"></iframe><h2>As plain text</h2><pre>${escape(mail.text)}</pre></html>`;
}
