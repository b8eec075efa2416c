import { z } from 'zod';
import { claim } from './claims.ts';
import type { OwnItem as OwnItemType } from '../item/own.ts';
import { isWork } from '../item/kind.ts';
import { RuleError, parseRule } from '../recurrence/rule.ts';
import { instantIn } from '../time/when.ts';
import { UTC } from '../time/zone.ts';
import { HandInWay, ItemKind, When, line } from './values.ts';

const Title = line().min(1, 'Say what it is.').max(300, 'Keep the title under 300 characters.');
const Place = line().max(300, 'Keep the place under 300 characters.');
const Details = z.string().max(20_000, 'Keep it under 20,000 characters.');
const Rule = z
  .string()
  .max(500)
  .superRefine((text, context) => {
    try {
      const { freq, byHour, byMinute, bySecond } = parseRule(text);
      // A feed may say so; by hand it is a slip or a rudeness, and would be thousands of dates.
      const often =
        /^(HOURLY|MINUTELY|SECONDLY)$/.test(freq) || byHour.length + byMinute.length + bySecond.length > 0;
      if (often) context.addIssue({ code: 'custom', message: 'It repeats more often than once a day.' });
    } catch (error) {
      if (!(error instanceof RuleError)) throw error;
      context.addIssue({ code: 'custom', message: `This repeat cannot be followed: ${error.message}.` });
    }
  });

/** The check of an own item. */
export const OwnItem = z
  .object({
    kind: ItemKind,
    handIn: HandInWay,
    title: Title,
    place: Place,
    details: Details,
    when: When.nullable(),
    end: When.nullable(),
    repeat: z.object({ rule: Rule, except: z.array(When).max(400) }).nullable(),
    changes: z
      .array(
        z.object({
          of: When,
          calledOff: z.boolean().optional(),
          title: Title.optional(),
          place: Place.optional(),
          details: Details.optional(),
          when: When.optional(),
          end: When.nullable().optional(),
        }),
      )
      .max(400),
  })
  .superRefine((item, context) => {
    const wrong = (path: string, message: string) =>
      context.addIssue({ code: 'custom', path: [path], message });
    if (!item.when && !isWork(item.kind)) wrong('when', 'Say when it is.');
    if (!item.when && item.repeat) wrong('repeat', 'What repeats begins on a day: say when.');
    if (item.end && (!item.when || (isWork(item.kind) && item.kind !== 'test')))
      wrong('end', 'Only something to be at has an end.');
    else if (item.end && item.when && item.end.kind !== item.when.kind)
      wrong('end', 'Beginning and end are both days, or both times.');
    else if (item.end && item.when && instantIn(item.end, UTC) < instantIn(item.when, UTC))
      wrong('end', 'The end comes after the beginning.');
  }) satisfies z.ZodType<OwnItemType>;
export type OwnItem = OwnItemType;

const Part = z.string().max(4000, 'Keep each part under 4,000 characters.').default('');

/**
 * The brief: what families ask, in a fixed order, each part optional. Plain text with lists, bold and links
 * as Markdown has them.
 */
export const Brief = z.object({
  aim: Part,
  steps: Part,
  time: Part,
  help: Part,
  adjustments: Part,
  good: Part,
  ask: Part,
  questions: Part,
});
export type Brief = z.infer<typeof Brief>;

/**
 * The version (`lib/version`) that a write was made on, null for nothing: where another one stands by now,
 * somebody else has changed it, and the write is refused.
 */
export const MadeOn = z.string().max(16).nullable();

/**
 * Which brief stands on an item, for all its dates (`key` empty) or for one, by the text that says it; null
 * for none. What a brief says is kept once, however many items it stands on.
 */
export const BriefPlace = z.object({
  itemId: z.string(),
  recurrenceId: z.string(),
  textId: z.string().nullable(),
});
export type BriefPlace = z.infer<typeof BriefPlace>;
/** The same, to be put (back) there. */
export const BriefPut = z.object({
  itemId: claim('item'),
  recurrenceId: z.string().max(64).default(''),
  textId: claim('briefText').nullable(),
});

/** A picture or file of a brief. */
export const BriefFile = z.object({
  id: z.string(),
  name: z.string(),
  /** Media type, by its content */
  type: z.string(),
  /** Bytes */
  size: z.number(),
  /** It can be shown where it stands */
  picture: z.boolean(),
  /** It belongs to one date and not to all */
  ofDate: z.boolean(),
});
export type BriefFile = z.infer<typeof BriefFile>;

/** A brief kept under a name, to begin others with. */
export const KeptBrief = z.object({
  id: z.string(),
  name: line().min(1, 'Give it a name.').max(80, 'Keep the name under 80 characters.'),
  brief: Brief,
});
export type KeptBrief = z.infer<typeof KeptBrief>;
