import type { OwnItem } from '@zephyrfield/core/item/own';
import { suggestFlag } from '@zephyrfield/core/item/flag';
import { contentFrom, contentText } from '@zephyrfield/core/ical/content';
import { hash } from '@zephyrfield/core/lib/hash';
import { instantOf } from '@zephyrfield/core/time/when';
import type { CalendarRow, CalendarStore } from '../calendars/store.ts';
import { keyedId, orderedId } from '../db/ids.ts';
import { horizon } from '../gather/horizon.ts';
import type { GatherStore } from '../gather/store.ts';
import { quickDatesOf } from '../items/own-dates.ts';
import type { OwnStore } from '../items/own-store.ts';

interface MeetingDeps {
  calendars: CalendarStore;
  gathered: GatherStore;
  own: OwnStore;
}

/** A time that was taken, as it stands in a schedule. */
export interface Meeting {
  title: string;
  place: string;
  details: string;
  start: number;
  end: number;
  zone: string;
}

/** Where times that are taken stand: with whoever offers them in a calendar of their own, with whoever takes them as followed. */
export const BOOKED = 'booked ';

/**
 * Puts times that are taken into both schedules, within the transaction in which they are taken: with whoever offers them
 * as an item of their own; with whoever takes them as something that is not theirs to move.
 */
export function meetingWriter({ calendars, gathered, own }: MeetingDeps) {
  function calendarFor(learnerId: string, key: string, name: string, zone: string, now: number): CalendarRow {
    const id = keyedId(learnerId, key);
    return (
      calendars.byId(id) ??
      calendars.add({
        ...{ id, learnerId, name: name.slice(0, 80), kind: 'group' as const, zone, createdAt: now },
        ...suggestFlag(name, calendars.ofLearner(learnerId)),
        position: calendars.nextPosition(learnerId),
      })
    );
  }

  const itemOf = ({ title, place, details, start, end, zone }: Meeting): OwnItem => ({
    kind: 'meeting',
    handIn: 'nothing',
    title: title.slice(0, 300),
    place,
    details,
    when: instantOf(start, zone),
    end: instantOf(end, zone),
    repeat: null,
    changes: [],
  });

  return {
    /** For whoever offers it; `id` is that of the item that stands for it already. */
    putOwn(learnerId: string, id: string | null, meeting: Meeting, now: number): string {
      const calendar = calendarFor(learnerId, 'open times', 'Open times', meeting.zone, now);
      const itemId = id ?? orderedId(now);
      const before = id === null ? undefined : own.byId(id)?.item;
      const uid = before?.uid ?? `${itemId}@zephyrfield`;
      const [found] = quickDatesOf({
        items: [{ own: itemOf(meeting), uid, zone: meeting.zone }],
        ...horizon(now),
        apart: false,
      })!;
      const row = {
        ...{ id: itemId, learnerId, calendarId: calendar.id, uid },
        sourceId: own.sourceFor(calendar.id, learnerId, now, () => orderedId(now)),
        ...{ kind: 'meeting' as const, handIn: 'nothing' as const, title: meeting.title.slice(0, 300) },
        content: contentFrom(found!.content),
        version: (before?.version ?? 0) + 1,
        ...{ goneAt: null, createdAt: now, updatedAt: now },
      };
      own.put(row);
      own.putDates(row, found!.dates!);
      return itemId;
    },
    removeOwn(id: string, now: number): void {
      const before = own.byId(id)?.item;
      if (!before) return;
      own.markGone(id, now, before.version + 1);
      own.putDates(before, []);
    },

    /** For whoever takes it, in a calendar under the name of whoever offers it. */
    putTaken(
      learnerId: string,
      by: { personId: string; name: string },
      meeting: Meeting,
      now: number,
    ): string {
      const digest = `${BOOKED}${by.personId}`;
      const calendar = calendarFor(learnerId, digest, by.name, meeting.zone, now);
      const before = gathered.byDigest(learnerId, digest);
      const sourceId = before?.id ?? orderedId(now);
      const row = {
        kind: 'published' as const,
        calendarId: calendar.id,
        ...{ addressSealed: '', addressMasked: by.name.slice(0, 80), addressDigest: digest },
        ...{ nextCheckAt: null, removedAt: null, lastCheckedAt: now, lastGoodAt: now },
      };
      if (before) gathered.change(before.id, row);
      else gathered.add({ ...row, id: sourceId, learnerId, createdAt: now });
      const id = orderedId(now);
      const uid = `${id}@zephyrfield`;
      const [found] = quickDatesOf({
        items: [{ own: itemOf(meeting), uid, zone: meeting.zone }],
        ...horizon(now),
        apart: false,
      })!;
      const content = contentText(contentFrom(found!.content));
      gathered.addItem(
        {
          ...{ id, calendarId: calendar.id, uid, written: null, mustReparse: false, section: null },
          ...{
            kind: 'meeting',
            handIn: 'nothing',
            doubt: false,
            course: null,
            title: meeting.title.slice(0, 300),
            content,
          },
          ...{ digest: parseInt(hash(content), 36), duplicateKey: null, updatedAt: now },
        },
        { id: sourceId, learnerId },
      );
      gathered.occurrences.put({ id, learnerId, calendarId: calendar.id }, found!.dates!, {
        duplicate: false,
        own: false,
      });
      return id;
    },
    removeTaken(id: string, now: number): void {
      gathered.markGone(id, now);
      gathered.occurrences.clear(id);
    },
  };
}
export type MeetingWriter = ReturnType<typeof meetingWriter>;
