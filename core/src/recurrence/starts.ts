import { DAY, parseDate } from '../time/civil.ts';
import { instantIn, instantOf, ownLocal, recurrenceIdOf, type When } from '../time/when.ts';
import { UTC, type Zone } from '../time/zone.ts';
import { expandRule } from './expand.ts';
import {
  anchorOf,
  atLocal,
  dayOf,
  lengthOf,
  type Horizon,
  type Length,
  type Repeatable,
} from './repeatable.ts';
import { RuleError, parseRule, type Rule } from './rule.ts';

/** Place where a repeat puts an occurrence: its start, the same as an instant where that is known, and a length of its own. */
export interface Start {
  start: When;
  at?: number;
  length?: Length | undefined;
}

/** The starts that a component's repeats give, by what names them. */
export function repeatedStarts(master: Repeatable, horizon: Horizon): Map<string, Start> {
  const anchor = anchorOf(master);
  const repeat = master.repeat;
  if (!anchor || !repeat) return new Map();
  const zone = anchor.kind === 'instant' ? horizon.zones(anchor.zone) : horizon.viewer;
  const allDay = anchor.kind === 'date';
  const own = anchor.kind === 'floating' || allDay ? UTC : zone;
  const startLocal = ownLocal(anchor, horizon.zones);
  // Instances that began before the horizon may still be running in it; a day covers any zone's distance from
  // UTC.
  const length = lengthOf(master, horizon);
  const from = horizon.from - length.days * DAY - Math.max(0, length.ms) - 2 * DAY;
  const to = horizon.to + 2 * DAY;
  const all = (rules: string[]) => {
    const found = new Map<number, true>();
    for (const text of rules) {
      const rule = readRule(text, horizon);
      if (!rule) continue;
      const { times, cutShort } = expandRule(
        rule,
        startLocal,
        {
          allDay,
          from,
          to,
          toInstant: (l) => (anchor.kind === 'instant' ? own.toInstant(l) : horizon.viewer.toInstant(l)),
          exists: (l) => own.exists(l),
          budget: horizon.budget,
        },
        horizon.limit,
      );
      if (cutShort) horizon.warn(`repeats too often to show in full: ${text.slice(0, 80)}`);
      for (const t of times) found.set(t, true);
    }
    return found;
  };

  const starts = new Map<string, Start>();
  const put = (start: When, own?: Length) => starts.set(recurrenceIdOf(start), { start, length: own });
  // "The DTSTART property value ... counts as the first occurrence" (RFC 5545 3.8.5.3), in step with its rule
  // or not.
  put(anchor);
  for (const local of all(repeat.rules).keys()) {
    if (anchor.kind !== 'instant') put(atLocal(anchor, local, horizon.zones));
    else {
      const at = own.toInstant(local);
      const start = instantOf(at, anchor.zone);
      starts.set(start.at, { start, at });
    }
  }
  for (const { start, length: own } of repeat.dates)
    put(
      start.kind === 'date' && !allDay
        ? atLocal(anchor, parseDate(start.date) * DAY + (((startLocal % DAY) + DAY) % DAY), horizon.zones)
        : start,
      own,
    );
  for (const local of all(repeat.exceptRules).keys())
    starts.delete(recurrenceIdOf(atLocal(anchor, local, horizon.zones)));
  except(starts, repeat.exceptDates, anchor, zone, horizon);
  return starts;
}

/**
 * Takes out EXDATEs: of the same form by their key; a bare date takes out its whole day, another form its
 * moment.
 */
function except(
  starts: Map<string, { start: When }>,
  exceptDates: readonly When[],
  anchor: When,
  zone: Zone,
  horizon: Horizon,
): void {
  const days = new Set<number>();
  const moments = new Set<number>();
  for (const date of exceptDates) {
    if (date.kind === anchor.kind) starts.delete(recurrenceIdOf(date));
    else if (date.kind === 'date' || anchor.kind === 'date')
      days.add(dayOf(date, date.kind === 'instant' ? horizon.zones(date.zone) : zone));
    else moments.add(date.kind === 'floating' ? instantIn(date, zone) : instantIn(date, horizon.viewer));
  }
  if (!days.size && !moments.size) return;
  for (const [recurrenceId, { start }] of starts)
    if (days.has(dayOf(start, zone)) || moments.has(instantIn(start, zone))) starts.delete(recurrenceId);
}

function readRule(text: string, horizon: Horizon): Rule | null {
  try {
    return parseRule(text);
  } catch (error) {
    if (!(error instanceof RuleError)) throw error;
    horizon.warn(`a repeat that cannot be followed was left out: ${error.message}`);
    return null;
  }
}
