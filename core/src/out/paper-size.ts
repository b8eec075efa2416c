/** Spans that can be printed, and papers. */
export const PAPERS = ['a4', 'letter'] as const;
export const TURNS = ['portrait', 'landscape'] as const;
export const PRINTED = ['week', 'month'] as const;

export interface PaperAsked {
  of: (typeof PRINTED)[number];
  size: (typeof PAPERS)[number];
  turn: (typeof TURNS)[number];
  /** A date in the week or month; the one of now without it */
  day: string | undefined;
}
