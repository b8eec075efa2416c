import { z } from 'zod';
import { RemindRules } from './notify.ts';
import type { LayerField } from '../item/access.ts';
import { Instant } from './schemas.ts';
import { Colour, HandInWay, Minutes, When } from './values.ts';

const Note = z.string().max(4000, 'Keep the note under 4,000 characters.');
/** A change of the own layer: what is not named stays as it is. */
export const LayerChange = z.object({
  recurrenceId: z.string().max(64).default(''),
  finished: z.boolean().optional(),
  stillToDo: z.boolean().optional(),
  /** How it was handed in and when, with a word on it; null takes that back */
  handedIn: z
    .object({ way: HandInWay, at: Instant.optional(), note: Note.default('') })
    .nullable()
    .optional(),
  aim: When.nullable().optional(),
  estimate: Minutes.nullable().optional(),
  note: Note.optional(),
  spent: z.number().int().min(0, 'That cannot be less than nothing.').max(60_000).optional(),
  timer: z.boolean().optional(),
  hidden: z.boolean().optional(),
  colour: Colour.nullable().optional(),
  position: z.number().nullable().optional(),
  reminders: RemindRules.nullable().optional(),
  /** The version this change was made on; another one means somebody else was faster */
  version: z.number().int().nonnegative(),
});
export type LayerChange = z.input<typeof LayerChange>;

/**
 * Each part of it has its place in the table of who may change it; a new one that has none does not compile.
 */
type Unplaced = Exclude<keyof LayerChange, LayerField | 'recurrenceId' | 'version'>;
export const EVERY_PART_HAS_ITS_ACCESS: [Unplaced] extends [never] ? true : false = true;
