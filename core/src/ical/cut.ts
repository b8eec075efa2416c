import { addDigests, digestOf, NOISE_NAMES } from './digest.ts';
import { plainUid } from './identifiers.ts';
import { Bytes, contentLines, physicalLine, plainEnds, scanner, unfold } from './lines.ts';

/** A component of a feed as text, not yet parsed. */
export class Block {
  /** Its UID as written; null where it has none that is plain to see */
  uid: string | null = null;
  /**
   * Digest of what it says: blind to the order of its properties, to folding and line ends, and to DTSTAMP,
   * CREATED and LAST-MODIFIED, which many servers write anew at every request.
   */
  digest = 0;
  private to = 0;

  /** @param line of its BEGIN in the feed, counted from 1 */
  constructor(
    readonly name: string,
    readonly line: number,
    private readonly feed: Bytes,
    private readonly from: number,
  ) {}

  /** Called once, when its end is found. */
  close(to: number): void {
    this.to = to;
  }

  /** Unfolded content lines between BEGIN and END, sub-components included, without the two */
  get lines(): string[] {
    return contentLines(this.feed.slice(this.from, this.to));
  }
  /** The feed's line on which one of them begins */
  lineOf(index: number): number {
    return this.line + physicalLine(this.feed.slice(this.from, this.to), index);
  }
}

export interface Cut {
  /** Content lines of the calendar itself (X-WR-CALNAME and such). */
  calendar: string[];
  zones: Block[];
  items: Block[];
  warnings: { line: number; message: string }[];
  /** The text ends in the middle: a transfer that broke off, say. Null where it ends as it should. */
  cutOff: CutOff | null;
}

/** Place where a feed breaks off. */
export interface CutOff {
  /** The UID of the entry in which it does, where that is known; what else it says is behind the cut */
  unfinished: string | null;
}

const BEGIN = /^BEGIN:\s*([A-Z0-9-]+)\s*$/i;
const END = /^END:\s*([A-Z0-9-]+)\s*$/i;
/** Properties that say nothing of their entry, by the letter it begins with */
const NOISE: Uint8Array[] = [];
for (const name of NOISE_NAMES) NOISE[name.charCodeAt(0)] = new TextEncoder().encode(name);
const [B, E, N, U, COLON, SEMICOLON] = [66, 69, 78, 85, 58, 59];
const LONGEST_NAME = 15;

/** Tells whether a line is of a property that says nothing of its entry. */
function isNoise(bytes: Uint8Array, start: number): boolean {
  const name = NOISE[bytes[start]!];
  if (name === undefined) return false;
  for (let i = 1; i < name.length; i++) if (bytes[start + i] !== name[i]) return false;
  const after = bytes[start + name.length];
  return after === COLON || after === SEMICOLON;
}

/**
 * Cuts a feed's text into its components without parsing them, in one pass. Line ends may be CRLF, LF, CR or
 * CR CR LF; folds are undone. What stands outside a calendar is passed over with a warning; a component
 * without an END ends where the next one of its kind begins or the text ends.
 * @returns null where there is no calendar in the text at all
 */
export function cut(text: string): Cut | null {
  const result = cutLines(text);
  return result === 'bare CR' ? (cutLines(plainEnds(text)) as Cut | null) : result;
}

function cutLines(text: string): Cut | null | 'bare CR' {
  const result: Cut = { calendar: [], zones: [], items: [], warnings: [], cutOff: null };
  const feed = new Bytes(text);
  const { bytes } = feed;
  const lines = scanner(bytes);
  let inCalendar = false;
  let seen = false;
  let stray = 0;
  let block: Block | null = null;
  let depth = 0;
  let inner = 0;
  let uidEnd = -1;
  const open = (name: string) => {
    block = new Block(name, lines.line, feed, lines.next);
    block.digest = name.length;
  };
  const close = () => {
    if (!block) return;
    block.close(lines.start);
    if (depth > 0) block.digest = addDigests(block.digest, inner);
    (block.name === 'VTIMEZONE' ? result.zones : result.items).push(block);
    block = null;
    depth = 0;
    inner = 0;
  };
  const unended = () =>
    block && result.warnings.push({ line: block.line, message: `a ${block.name} has no end` });
  const property = (of: Block, start: number, end: number, early: boolean) => {
    if (
      end === start ||
      (early ? isFoldedNoise(unfold(feed.slice(start, start + 200))) : isNoise(bytes, start))
    )
      return;
    of.digest = addDigests(of.digest, lines.digest());
    if (of.uid === null && bytes[start] === U) {
      uidEnd = end;
      of.uid = uidIn(lines.folded ? unfold(feed.slice(start, end)) : feed.slice(start, end));
    }
  };
  while (lines.advance()) {
    const { start, end } = lines;
    const first = bytes[start]! & ~32;
    const second = bytes[start + 1]! & ~32;
    // Only a line that may begin or end something is looked at as text; one that is folded early, in any
    // case.
    const early = lines.folded && lines.firstEnd - start < LONGEST_NAME;
    const mayBeSign =
      (first === B && second === E) ||
      (first === E && second === N) ||
      (early && (first === B || first === E));
    const { begin, ends } = mayBeSign
      ? signOf(
          lines.folded
            ? unfold(feed.slice(start, Math.min(end, start + 500)))
            : feed.slice(start, Math.min(end, start + 100)),
        )
      : NO_SIGN;
    const current = block as Block | null;
    if (!begin && !ends && current && depth === 0) {
      property(current, start, end, early);
    } else if (begin === 'VCALENDAR') {
      unended();
      close();
      inCalendar = seen = true;
    } else if (!inCalendar) {
      if (end > start && feed.slice(start, end).trim()) stray ||= lines.line;
    } else if (ends === 'VCALENDAR') {
      unended();
      close();
      inCalendar = false;
    } else if (begin && !current) open(begin);
    else if (begin && current && isItem(begin) && isItem(current.name)) {
      // An item never stands inside an item: the one before has lost its END.
      unended();
      close();
      open(begin);
    } else if (ends && current && depth === 0 && ends === current.name) close();
    else if (current) {
      if (begin) depth++;
      if (depth > 0) {
        // Inside a sub-component the order counts: its lines belong together.
        inner = digestOf(inner | 0, lines.digest() | 0);
        if (ends && --depth === 0) {
          current.digest = addDigests(current.digest, inner);
          inner = 0;
        }
      } else property(current, start, end, early);
    } else if (!ends) {
      result.calendar.push(unfold(feed.slice(start, end)));
    }
    if (lines.bareCr) return 'bare CR';
  }
  if (!seen) return null;
  unended();
  if (block || inCalendar) {
    const last = block as Block | null;
    // An identifier that is the very end of the text may be one half of one.
    if (last && uidEnd === bytes.length) last.uid = null;
    result.cutOff = { unfinished: last?.uid ?? null };
    // What it broke off in the middle of is behind the cut, like the rest.
    block = null;
    result.warnings.push({
      line: lines.line,
      message: 'the feed ends in the middle; what came before is shown',
    });
  }
  close();
  if (stray)
    result.warnings.push({ line: stray, message: 'there is text outside the calendar; it was passed over' });
  return result;
}

interface Sign {
  begin?: string | undefined;
  ends?: string | undefined;
}
const NO_SIGN: Sign = {};
/** The lines that begin and end things are few, and come again and again. */
const SIGNS = new Map<string, Sign>();

/** Gives what a line begins or ends. */
function signOf(line: string): Sign {
  const known = SIGNS.get(line);
  if (known) return known;
  if (line.length >= 80) return NO_SIGN;
  const sign = { begin: BEGIN.exec(line)?.[1]?.toUpperCase(), ends: END.exec(line)?.[1]?.toUpperCase() };
  if (SIGNS.size < 100) SIGNS.set(line, sign);
  return sign;
}

const isFoldedNoise = (line: string) => isNoise(new TextEncoder().encode(line), 0);

/** The UID a line states, if it is a plain UID line. */
const uidIn = (line: string) => (line.startsWith('UID:') ? plainUid(line.slice(4)) : null);

const isItem = (name: string) =>
  name === 'VEVENT' ||
  name === 'VTODO' ||
  name === 'VJOURNAL' ||
  name === 'VFREEBUSY' ||
  name === 'VTIMEZONE';
