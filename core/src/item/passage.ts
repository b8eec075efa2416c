import { z } from 'zod';

/** A stretch of text in one style. */
export const Run = z.object({ text: z.string(), bold: z.boolean().optional(), italic: z.boolean().optional(), href: z.string().optional() });
export type Run = z.infer<typeof Run>;

/** A paragraph, heading or list entry. Text is data here, never markup: nothing a feed sends can become a script. */
export const Passage = z.object({
  kind: z.enum(['paragraph', 'heading', 'bullet', 'numbered']),
  number: z.number().optional(),
  runs: z.array(Run),
});
export type Passage = z.infer<typeof Passage>;
