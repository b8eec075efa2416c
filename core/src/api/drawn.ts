import { z } from 'zod';
import type { DeviceLook } from './look.ts';
import type { CalendarView, OccurrenceView, Session } from './schemas.ts';

/** What a device's cookie may say; a cookie can be anything. */
export const CheckedLook: z.ZodType<DeviceLook> = z.object({
  wide: z.boolean(),
  learnerId: z.string().max(64).nullable(),
  hidden: z.array(z.string().max(64)).max(40).nullable(),
});

/** What Today is drawn from. */
export interface DrawnFrom {
  session: Session;
  /** The learner that is looked at, and what is near now in their schedule (see `view/near`) */
  learnerId: string;
  calendars: CalendarView[];
  occurrences: OccurrenceView[];
  look: DeviceLook;
}

/** Draws Today as text of a page: what stands in it, and the rules that the style classes of its own have. */
export type DrawToday = (from: DrawnFrom) => { html: string; css: string };
