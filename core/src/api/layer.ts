import { z } from 'zod';
import { claim } from './claims.ts';
import { RemindRules } from './notify.ts';
import type { LayerField } from '../item/access.ts';
import { Instant } from './schemas.ts';
import { Colour, HandInWay, Minutes, When } from './values.ts';

const Note = z.string().max(4000, 'Keep the note under 4,000 characters.');
const common = {
  recurrenceId: z.string().max(64).default(''),
  /** The version this change was made on; another one means that somebody was faster */
  version: z.number().int().nonnegative(),
};
/** A change of the layer that a learner's crew shares: what is not named stays as it is. */
export const LayerChange = z.object({
  ...common,
  finished: z.boolean().optional(),
  stillToDo: z.boolean().optional(),
  /** Way in which it was handed in and when, with a word on it; null takes that back */
  handedIn: z
    .object({ way: HandInWay, at: Instant.optional(), note: Note.default('') })
    .nullable()
    .optional(),
  aim: When.nullable().optional(),
  estimate: Minutes.nullable().optional(),
  spent: z.number().int().min(0, 'That cannot be less than nothing.').max(60_000).optional(),
  timer: z.boolean().optional(),
  position: z.number().nullable().optional(),
  reminders: RemindRules.nullable().optional(),
});
export type LayerChange = z.input<typeof LayerChange>;

/** Finishing many things at once, or opening them again. */
export const FinishAll = z.object({
  items: z
    .array(z.object({ itemId: claim('item'), ...common }))
    .min(1)
    .max(500, 'At most 500 at once.'),
  finished: z.boolean(),
});

/** A change of what a person has for themselves on an item: what is not named stays as it is. */
export const PersonLayerChange = z.object({
  ...common,
  hidden: z.boolean().optional(),
  colour: Colour.nullable().optional(),
  note: Note.optional(),
});
export type PersonLayerChange = z.input<typeof PersonLayerChange>;

/**
 * Each part of the shared layer has its place in the table of who may change it; a new one that has none does
 * not compile.
 */
type Unplaced = Exclude<keyof LayerChange, LayerField | 'recurrenceId' | 'version'>;
export const EVERY_PART_HAS_ITS_ACCESS: [Unplaced] extends [never] ? true : false = true;
