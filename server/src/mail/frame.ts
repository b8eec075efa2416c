/** A mail as it is written. */
export interface Mail {
  subject: string;
  text: string;
  html: string;
  /** Place where an answer goes, where it can be answered */
  replyTo?: string;
}

/** Makes text safe inside HTML. */
export const escape = (text: string) => text.replace(/[&<>"']/g, (c) => `&#${c.charCodeAt(0)};`);
const INK = '#15262B';
/** Ink of what matters less. */
export const QUIET = '#4A5E62';
/** Colour of links. */
export const LAGOON = '#0B6068';

/** Puts a body and a foot into the page that every mail is. */
export const frame = (body: string, foot: string) =>
  `<!doctype html><html lang="en"><body style="margin:0;background:#F4F6F0;color:${INK};font:16px/1.5 sans-serif"><div style="max-width:560px;margin:0 auto;padding:24px">${body}<p style="margin-top:32px;border-top:1px solid #D3DBD0;padding-top:12px;color:${QUIET};font-size:14px">${foot}</p></div></body></html>`;
