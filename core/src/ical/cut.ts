/** A component of a feed as text, not yet parsed. */
export interface Block {
  name: string;
  /** Unfolded content lines between BEGIN and END, sub-components included, without the two. */
  lines: string[];
  /** Line of its BEGIN in the feed as it came, counted from 1. */
  line: number;
}

export interface Cut {
  /** Content lines of the calendar itself (X-WR-CALNAME and such). */
  calendar: string[];
  zones: Block[];
  items: Block[];
  warnings: { line: number; message: string }[];
}

const BEGIN = /^BEGIN:\s*([A-Z0-9-]+)\s*$/i;
const END = /^END:\s*([A-Z0-9-]+)\s*$/i;

/**
 * Cuts a feed's text into its components without parsing them. Line ends may be CRLF, LF, CR or CR CR LF; folds are
 * undone. What stands outside a calendar is passed over with a warning; a component without an END ends where the next
 * one of its kind begins or the text ends.
 * @returns null where there is no calendar in the text at all
 */
export function cut(text: string): Cut | null {
  const result: Cut = { calendar: [], zones: [], items: [], warnings: [] };
  let inCalendar = false;
  let seen = false;
  let stray = 0;
  let block: Block | null = null;
  let depth = 0;
  const close = () => {
    if (!block) return;
    (block.name === 'VTIMEZONE' ? result.zones : result.items).push(block);
    block = null;
    depth = 0;
  };
  for (const { text: content, line } of contentLines(text)) {
    const begin = content.length < 80 ? BEGIN.exec(content)?.[1]?.toUpperCase() : undefined;
    const end = begin || content.length >= 80 ? undefined : END.exec(content)?.[1]?.toUpperCase();
    if (begin === 'VCALENDAR') {
      if (block) unended(result, block);
      close();
      inCalendar = seen = true;
    } else if (!inCalendar) {
      if (content.trim()) stray ||= line;
    } else if (end === 'VCALENDAR') {
      if (block) unended(result, block);
      close();
      inCalendar = false;
    } else if (begin && !block) block = { name: begin, lines: [], line };
    else if (begin && block && isItem(begin) && isItem(block.name)) {
      // An item never stands inside an item: the one before has lost its END.
      unended(result, block);
      close();
      block = { name: begin, lines: [], line };
    } else if (begin && block) {
      depth++;
      block.lines.push(content);
    } else if (end && block && depth === 0 && end === block.name) close();
    else if (end && block) {
      if (depth > 0) depth--;
      block.lines.push(content);
    } else if (block) block.lines.push(content);
    else if (!end) result.calendar.push(content);
  }
  if (!seen) return null;
  if (block) unended(result, block);
  if (block || inCalendar) result.warnings.push({ line: text.split('\n').length, message: 'the feed ends in the middle; what came before is shown' });
  close();
  if (stray) result.warnings.push({ line: stray, message: 'there is text outside the calendar; it was passed over' });
  return result;
}

const isItem = (name: string) => name === 'VEVENT' || name === 'VTODO' || name === 'VJOURNAL' || name === 'VFREEBUSY' || name === 'VTIMEZONE';
const unended = (result: Cut, block: Block) => result.warnings.push({ line: block.line, message: `a ${block.name} has no end` });

/** Unfolded lines with the number of the physical line each begins on. */
export function* contentLines(text: string): Generator<{ text: string; line: number }> {
  const lineEnd = /\r*\n|\r/g;
  let current: string | null = null;
  let pieces: string[] | null = null;
  let begun = 1;
  let line = 0;
  let at = 0;
  while (at <= text.length) {
    const found = lineEnd.exec(text);
    const physical = text.slice(at, found ? found.index : text.length);
    at = found ? lineEnd.lastIndex : text.length + 1;
    line++;
    const first = physical.charCodeAt(0);
    if (current !== null && (first === 32 || first === 9)) {
      // Kept in pieces: a feed with every character folded must not cost the square of its length.
      (pieces ??= [current]).push(physical.slice(1));
      continue;
    }
    if (current !== null) yield { text: pieces ? pieces.join('') : current, line: begun };
    current = physical;
    pieces = null;
    begun = line;
  }
  if (current) yield { text: pieces ? pieces.join('') : current, line: begun };
  else if (pieces) yield { text: pieces.join(''), line: begun };
}
