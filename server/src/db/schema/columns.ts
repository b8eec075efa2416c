import { contentFrom, contentText, type EntryContent } from '@zephyrfield/core/ical/content';
import { customType, integer } from 'drizzle-orm/sqlite-core';

/** Instants are milliseconds since the epoch, in UTC, unless a column's name says otherwise. */
export const instant = (name: string) => integer(name);
/** An entry's content in the text form of core/gather/content. */
export const content = customType<{ data: EntryContent; driverData: string }>({
  dataType: () => 'text',
  toDriver: contentText,
  fromDriver: contentFrom,
});
/** better-auth keeps its own times as Dates. */
export const authTime = (name: string) => integer(name, { mode: 'timestamp' });

/** Something that went along from one item to another: on which date, and whose where it is one person's. */
export interface HandedOver {
  table: 'layer' | 'person_layer' | 'run_up';
  from: string;
  to: string;
  recurrenceId: string;
  /** Empty where it is all the crew's */
  personId: string;
}
