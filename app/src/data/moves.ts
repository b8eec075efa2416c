import { late } from './late';
import { MINUTE, formatDate, parseDate } from '@zephyrfield/core/time/civil';
import { whenOn } from '@zephyrfield/core/time/shift';
import { dateOf, dayIn, localIn } from '@zephyrfield/core/time/when';
import type { AgendaEntry } from '@zephyrfield/core/view/entry';
import { dueDay, hoursWords, longDay, minuteWords, type Viewer } from '@zephyrfield/core/words/when';
import { moveSitting } from './sittings';
import { useUndo } from './undo';
import { changeLayer } from './layer';
import type * as ownModule from './own';

declare module './late' {
  interface LateParts {
    changes: Pick<typeof ownModule, 'moveOwn' | 'changeCalendarOf'>;
  }
}

/** Place where something is put. */
export interface Place {
  day: number;
  /** Minute of the day, where it is put at an hour */
  minute?: number | undefined;
}

// What edits repeats is loaded with the forms.
const own = late('changes');

/**
 * Moving things to another time. What is one's own is moved; of work from a feed it sets the person's aim,
 * since the due date is not ours; what else a feed brings stays, with a word on it.
 */
export function moves(learnerId: string, viewer: Viewer) {
  const say = (words: string) => useUndo.getState().say(words);
  const move = async (entry: AgendaEntry, { day, minute }: Place): Promise<unknown> => {
    const { occurrence } = entry;
    const { title, due, start } = occurrence;
    if (occurrence.sitting) {
      const at = minute ?? Math.floor(localIn(start, viewer) / MINUTE) % 1440;
      const words = `${title} moved to ${longDay(day)}, ${minuteWords(at, viewer.hours)}`;
      return moveSitting(learnerId, occurrence.sitting, { day: formatDate(day), from: at }, words);
    }
    if (occurrence.own && !entry.isAim) {
      const from = due ?? start;
      // A deadline after midnight stands under the day before, and stays one.
      const isNight = minute === undefined && from === due && dueDay(from, viewer) < dayIn(from, viewer);
      const when = whenOn(from, isNight ? day + 1 : day, viewer, from.kind === 'date' ? undefined : minute);
      if (JSON.stringify(when) === JSON.stringify(from)) return;
      return own().then((m) =>
        m.moveOwn(
          learnerId,
          occurrence,
          when,
          `${title} moved to ${longDay(day)}${minute !== undefined && when.kind !== 'date' ? `, ${minuteWords(minute, viewer.hours)}` : ''}`,
        ),
      );
    } else if (entry.urgency !== null && due) {
      const dayOfDue = dueDay(due, viewer);
      if (entry.urgency === 'finished') return say(`${title} is finished.`);
      if (day > dayOfDue) return say(`${title} is due ${longDay(dayOfDue)}; an aim comes before that.`);
      if (day === entry.day) return;
      return changeLayer(
        learnerId,
        occurrence,
        { aim: day === dayOfDue ? null : { kind: 'date', date: formatDate(day) } },
        {
          words:
            day === dayOfDue
              ? `${title}: no aim`
              : `${title}: aim ${longDay(day)}, still due ${longDay(dayOfDue)}`,
        },
      );
    }
    return say(`${title} comes from its feed and is not ours to move. Open it and make your own copy.`);
  };
  const stretch = ({ occurrence }: AgendaEntry, { day, minute }: Place) => {
    const { start, end, title } = occurrence;
    if (!occurrence.own) return;
    if (start.kind === 'date') {
      const first = parseDate(start.date);
      // The end of whole days is the day after the last (RFC 5545 3.6.1).
      const until = dateOf(Math.max(first, day) + 1);
      if (JSON.stringify(until) === JSON.stringify(end)) return;
      return void own().then((m) =>
        m.moveOwn(learnerId, occurrence, start, `${title} until ${longDay(Math.max(first, day))}`, until),
      );
    }
    if (minute === undefined) return;
    if (occurrence.sitting) {
      const from = Math.floor(localIn(start, viewer) / MINUTE) % 1440;
      const minutes = minute - from;
      const words = `${title}: ${hoursWords(minutes)}`;
      if (minutes >= 5) void moveSitting(learnerId, occurrence.sitting, { minutes }, words);
      return;
    }
    const until = whenOn(end ?? start, day, viewer, minute);
    if (JSON.stringify(until) === JSON.stringify(end)) return;
    void own().then((m) =>
      m.moveOwn(learnerId, occurrence, start, `${title} until ${minuteWords(minute, viewer.hours)}`, until),
    );
  };
  return { move, stretch };
}
