import { z } from 'zod';
import type { DeviceLook } from './look.ts';
import type { PlanView } from './plan.ts';
import type { CalendarView, OccurrenceView, Session } from './schemas.ts';

/** Content that a device's cookie may have; a cookie can be anything. */
export const CheckedLook: z.ZodType<DeviceLook> = z.object({
  learnerId: z.string().max(64).nullable(),
  hidden: z.array(z.string().max(64)).max(40).nullable(),
});

/** Data that Today is drawn from. */
export interface RenderInput {
  session: Session;
  /** The learner that is looked at, and what is near now in their schedule (see `view/near`) */
  learnerId: string;
  calendars: CalendarView[];
  occurrences: OccurrenceView[];
  plan: PlanView;
  look: DeviceLook;
}

/** Today as text of a page. */
export interface RenderedToday {
  html: string;
  /** The rules that the style classes of its own have */
  css: string;
  /** Replies that it was drawn from, by the paths the page would ask for it at */
  replies: [path: string, reply: unknown][];
}

export type RenderToday = (from: RenderInput) => RenderedToday;
