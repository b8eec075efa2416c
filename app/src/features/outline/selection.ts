import { quickAdd } from '@zephyrfield/core/item/quick-add';
import { DAY, formatDate, parseDate } from '@zephyrfield/core/time/civil';
import { dayIn } from '@zephyrfield/core/time/when';
import { UTC, ianaZone } from '@zephyrfield/core/time/zone';
import { minuteOfDay } from '@zephyrfield/core/words/when';
import type { For } from './for-fields';
import { bareRow, type Row } from './rows';

const LONGEST = 300;

/**
 * A row of the words that are marked on the page, read as a line is that one types: from the beginning of the term on.
 * @returns null where nothing is marked
 */
export function rowOfSelection({ zone: name, from }: Pick<For, 'zone' | 'from'>): Row | null {
  const text = (window.getSelection()?.toString() ?? '').replace(/\s+/g, ' ').trim().slice(0, LONGEST);
  if (!text) return null;
  const zone = ianaZone(name) ?? UTC;
  const { title, kind, handIn, when } = quickAdd(text, {
    ...{ now: zone.toInstant(parseDate(from) * DAY), zone, calendars: [] },
  });
  return bareRow(title || text, {
    ...{ kind, handIn },
    date: when && formatDate(dayIn(when, zone)),
    minute: when?.kind === 'instant' ? minuteOfDay(Date.parse(when.at), zone) : null,
  });
}
