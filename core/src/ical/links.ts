import { readHtml } from './html.ts';
import LinkifyIt from 'linkify-it';
import type { Component } from './property.ts';

export interface Link {
  href: string;
  /** Words of its own, or null where the address is all there is */
  label: string | null;
  role: 'page' | 'meeting' | 'file';
}

const linkify = new LinkifyIt({ fuzzyEmail: false, fuzzyIP: false, fuzzyLink: false });

/** Finds addresses in plain text, with where they stand. */
export function findAddresses(text: string): { href: string; start: number; end: number }[] {
  if (!/https?:|mailto:/i.test(text)) return [];
  return (linkify.match(text) ?? []).flatMap((m) => {
    const href = safeHref(m.url);
    return href ? [{ href, start: m.index, end: m.lastIndex }] : [];
  });
}

/** An address that may be opened (http, https, mailto, tel), else null. Scripts and files are not. */
export function safeHref(text: string | undefined): string | null {
  const trimmed = text?.trim();
  if (!trimmed || trimmed.length > 4000) return null;
  try {
    const url = new URL(trimmed);
    return ['http:', 'https:', 'mailto:', 'tel:'].includes(url.protocol) ? trimmed : null;
  } catch {
    return null;
  }
}

const MEETING = /\b(meet|meeting|join|call|conference|webinar|video|rooms?)\b|\/(j|join|meet)\//i;

/** Gives what a component links to by its properties, each once: its page first, then where to join, then files. */
export function readLinks(component: Component, place: string): Link[] {
  const links = new Map<string, Link>();
  const put = (text: string | undefined, role: Link['role'], label: string | null = null) => {
    const href = safeHref(text);
    if (!href || links.has(href)) return;
    // A number to ring and an address to write to are neither a page nor a meeting to join.
    const [, scheme, to] = /^(tel|mailto):(.*)$/i.exec(href) ?? [];
    const words = scheme && `${scheme.toLowerCase() === 'tel' ? 'Call' : 'Write to'} ${to!.slice(0, 80)}`;
    links.set(href, words ? { href, label: label ?? words, role: 'page' } : { href, label, role });
  };
  const param = (params: Record<string, string | string[]>, name: string) => {
    const value = params[name];
    return (Array.isArray(value) ? value[0] : value) ?? null;
  };
  put(component.text('url'), 'page');
  for (const p of component.all('conference')) put(String(p[3] ?? ''), 'meeting', param(p[1], 'label'));
  for (const { href } of findAddresses(place)) put(href, 'meeting');
  for (const p of component.all('attach'))
    if (p[2] === 'uri') put(String(p[3] ?? ''), 'file', param(p[1], 'filename') ?? param(p[1], 'x-filename'));
  return [...links.values()].slice(0, 40);
}

/**
 * Addresses that stand in a description; found when somebody looks, since finding them costs more than
 * reading the entry.
 */
export function textLinks(description: string, html: string | null): Link[] {
  const role = (href: string): Link['role'] => (MEETING.test(href) ? 'meeting' : 'page');
  const markup = html ?? (isHtml(description) ? description : null);
  return [
    ...findAddresses(description).map(({ href }) => ({ href, label: null, role: role(href) })),
    ...(markup
      ? htmlLinks(markup).map(({ href, text }) => ({ href, label: text || null, role: role(href) }))
      : []),
  ];
}

/** All links of an item, each once. */
export function allLinks({
  links,
  description,
  html,
}: {
  links: Link[];
  description: string;
  html: string | null;
}): Link[] {
  const all = new Map(links.map((l) => [l.href, l]));
  for (const link of textLinks(description, html)) if (!all.has(link.href)) all.set(link.href, link);
  return [...all.values()].slice(0, 40);
}

const HTML = /<(?:p|br|a|div|ul|ol|li|b|strong|em|i|span|h[1-6])\b[^<>]*>/i;

/** Tells whether a plain text is HTML after all: some writers put it into DESCRIPTION itself. */
export const isHtml = (text: string): boolean => HTML.test(text);

/** The anchors of an HTML text, with their words. */
function htmlLinks(html: string): { href: string; text: string }[] {
  const found: { href: string; text: string }[] = [];
  let open: { href: string; text: string } | null = null;
  readHtml(html, {
    onopentag(name, attributes) {
      const href = name === 'a' ? safeHref(attributes['href']) : null;
      if (href) found.push((open = { href, text: '' }));
    },
    ontext(text) {
      if (open) open.text = (open.text + text).slice(0, 200);
    },
    onclosetag(name) {
      if (name === 'a') open = null;
    },
  });
  return found;
}
