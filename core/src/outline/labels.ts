import { exactly } from '../lib/patterns.ts';
import { says } from './title.ts';

const DATE_LABEL = exactly(
  'due(?: date| on| by)?',
  'deadline',
  'date',
  'when',
  'day',
  'submission(?: date)?',
  'hand-?in(?: date)?',
  'handed in',
  'abgabe',
  'datum',
  'wann',
  'fecha',
  'date limite',
  'entrega',
);
const OUT_LABEL = exactly(
  'released',
  'out',
  'issued',
  'set',
  'given out',
  'handed out',
  'opens?',
  'open from',
  'available(?: from)?',
  'posted',
  'assigned',
  'returned',
  'feedback',
);
const ROOM =
  '[Rr]oom|[Hh]all|[Ll]ab|[Ss]tudio|[Bb]uilding|[Aa]uditorium|(?:[Ll]ecture )?[Tt]heatre|[Gg]ym|Raum|[Ss]alle|[Aa]ula';
/** A room by its name or number; `lab log` is none. */
const PLACE = new RegExp(
  `^(?:in |at )?(?:the )?(?:${ROOM})(?: [\\dA-Z][\\p{L}\\d./-]{0,8}(?:,? .{0,20})?)?$`,
  'u',
);

/** Words beside a date that are a room, and nothing that takes place. */
export const isPlace = (text: string): boolean => PLACE.test(text);

/**
 * What a date is for, told by a label before it: `Due: 9 Oct`, `When: 5 Nov, hall 3`. null for what has a name of its own.
 * @returns `out` for the day on which work is given out; `place` where the rest is one
 */
export function labelled(title: string): { out: boolean; place: string } | null {
  const at = title.indexOf(':');
  const label = at < 0 ? title : title.slice(0, at);
  const rest = at < 0 ? '' : title.slice(at + 1).trim();
  if (says(rest) && !isPlace(rest)) return null;
  if (OUT_LABEL.test(label.trim())) return { out: true, place: '' };
  return DATE_LABEL.test(label.trim()) ? { out: false, place: rest } : null;
}

const TIME_LINE = /^(?:time|hours?|uhrzeit|zeit|heure|hora)\s?[:–-]/i;
const PLACE_LINE = /^(?:room|place|where|location|venue|ort|raum|lieu|salle|lugar)\s?[:–-]\s*/i;

/** Tells whether a line tells the hour of what stands above it. */
export const tellsHour = (line: string): boolean => TIME_LINE.test(line);

/** The place that a line tells of what stands above it; null for another line. */
export function placeTold(line: string): string | null {
  const label = PLACE_LINE.exec(line)?.[0];
  return label === undefined ? null : line.slice(label.length).trim();
}
