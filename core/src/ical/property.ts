import ICAL from 'ical.js';

/** A property as jCal (RFC 7265) writes it: name in lower case, parameters, value type, values. */
export type Property = [
  name: string,
  params: Record<string, string | string[]>,
  type: string,
  ...values: unknown[],
];

/** A component as jCal writes it. */
export type Written = [name: string, properties: Property[], components: Written[]];

/** A parsed component: its properties by name, and its sub-components. */
export class Component {
  readonly properties: Property[] = [];
  readonly children: Component[] = [];
  private byName: Map<string, Property[]> | null = null;

  constructor(readonly name: string) {}

  all(name: string): readonly Property[] {
    if (!this.byName) {
      this.byName = new Map();
      for (const p of this.properties) {
        const list = this.byName.get(p[0]);
        if (list) list.push(p);
        else this.byName.set(p[0], [p]);
      }
    }
    return this.byName.get(name) ?? [];
  }

  first(name: string): Property | undefined {
    return this.all(name)[0];
  }

  /**
   * The first value of the first property of this name as text; undefined where there is none or it is empty.
   */
  text(name: string): string | undefined {
    const value = this.first(name)?.[3];
    const text =
      typeof value === 'string'
        ? value
        : Array.isArray(value)
          ? value.join(';')
          : value == null
            ? ''
            : String(value);
    return text.trim() ? text : undefined;
  }
}

/** Names as they are written in lower case, each worked out once */
const NAMES = new Map<string, string>();

/** Length of the property name a line begins with; 0 where it begins with none. */
function nameLength(line: string): number {
  for (let i = 0; i < line.length; i++) {
    const c = line.charCodeAt(i);
    if (c === 58 || c === 59) return i;
    const letter = c | 32;
    if (!((letter >= 97 && letter <= 122) || (c >= 48 && c <= 57) || c === 45 || c === 95)) return 0;
  }
  return 0;
}

function lowerName(written: string): string {
  let name = NAMES.get(written);
  if (name === undefined) {
    name = written.toLowerCase();
    // A hostile feed may make up names without end.
    if (NAMES.size < 500) NAMES.set(written, name);
  }
  return name;
}

/** One parameter (RFC 5545 3.2); a quoted value may hold colons, semicolons and commas. */
const PARAM = /;([A-Za-z0-9_-]+)=("[^"]*"|[^";:]*)/y;
/** Kept as written, since their values are read by our own, stricter readers. */
const AS_WRITTEN = new Set([
  'rrule',
  'exrule',
  'dtstart',
  'dtend',
  'due',
  'completed',
  'recurrence-id',
  'exdate',
  'rdate',
  'duration',
  'trigger',
  'dtstamp',
  'created',
  'last-modified',
  'sequence',
  'uid',
]);

/**
 * Plain text without a list in it (RFC 5545 3.3.11): the bulk of every feed, read without the library's way
 * round.
 */
const PLAIN_TEXT = new Set([
  'summary',
  'description',
  'location',
  'status',
  'class',
  'transp',
  'comment',
  'contact',
]);
const ESCAPE = /\\([\\;,Nn])/g;
const unescapeText = (text: string) =>
  text.includes('\\') ? text.replace(ESCAPE, (_, c: string) => (c === 'n' || c === 'N' ? '\n' : c)) : text;
/** The values of a list (RFC 5545 3.3.11): cut at commas that no backslash takes away, at most so many. */
function listValues(text: string, most: number): string[] {
  const values: string[] = [];
  let from = 0;
  for (let i = 0; i < text.length && values.length < most; i++) {
    if (text[i] === '\\') i++;
    else if (text[i] === ',') {
      values.push(text.slice(from, i));
      from = i + 1;
    }
  }
  if (values.length < most) values.push(text.slice(from));
  return values;
}

/** Number of categories an entry has at the most. */
const MOST_CATEGORIES = 1_000;

/**
 * Parses one content line.
 * @throws an Error where it is no property at all
 */
export function parseProperty(line: string): Property {
  const length = nameLength(line);
  if (!length) throw new Error('not a property');
  const name = lowerName(line.slice(0, length));
  const colon = line.charCodeAt(name.length) === 58 ? name.length : -1;
  // The plain form, by far the most common, needs no parameter parsing.
  if (AS_WRITTEN.has(name)) {
    if (colon > 0) return [name, {}, 'unknown', line.slice(colon + 1).trim()];
    const params: Property[1] = Object.create(null) as Property[1];
    PARAM.lastIndex = name.length;
    let end = name.length;
    for (let m = PARAM.exec(line); m; m = PARAM.exec(line)) {
      params[m[1]!.toLowerCase()] = m[2]!.startsWith('"') ? m[2]!.slice(1, -1) : m[2]!;
      end = PARAM.lastIndex;
    }
    if (line.charCodeAt(end) !== 58) throw new Error('not a property');
    return [name, params, 'unknown', line.slice(end + 1).trim()];
  }
  if (colon > 0) {
    const value = line.slice(colon + 1);
    if (PLAIN_TEXT.has(name)) return [name, {}, 'text', unescapeText(value)];
    if (name === 'url') return [name, {}, 'uri', value];
    if (name === 'categories')
      return [name, {}, 'text', ...listValues(value, MOST_CATEGORIES).map(unescapeText)];
  }
  return ICAL.parse.property(line, ICAL.design.icalendar) as unknown as Property;
}

/**
 * Parses a component's content lines; a line that is no property is dropped and reported by its place among
 * them.
 */
export function parseComponent(
  name: string,
  lines: readonly string[],
  stray: (index: number) => void,
): Component {
  const root = new Component(name);
  const open = [root];
  for (let i = 0; i < lines.length; i++) {
    const line = lines[i]!;
    const current = open[open.length - 1]!;
    const first = line.charCodeAt(0) | 32;
    if (first === 98 && line.length < 80 && /^BEGIN:/i.test(line)) {
      const child = new Component(line.slice(6).trim().toUpperCase());
      // Nothing in the standard nests deeper than three; more is a feed's mistake and not followed.
      if (open.length < 8) current.children.push(child);
      open.push(child);
    } else if (first === 101 && line.length < 80 && /^END:/i.test(line)) {
      if (open.length > 1) open.pop();
    } else if (line !== '' && line.trim()) {
      try {
        current.properties.push(parseProperty(line));
      } catch {
        stray(i);
      }
    }
  }
  return root;
}
