/** A stretch of text in one style. */
export interface Run {
  text: string;
  bold?: boolean | undefined;
  italic?: boolean | undefined;
  href?: string | undefined;
}

/**
 * A paragraph, heading or list entry. Text is data here, never markup: nothing a feed sends can become a
 * script.
 */
export interface Passage {
  kind: 'paragraph' | 'heading' | 'bullet' | 'numbered';
  number?: number | undefined;
  runs: Run[];
}
