/** Reason why an outline could not be read, in words for whoever gave it, and what to do. */
export class OutlineTrouble extends Error {
  readonly remedy: string;

  constructor(words: string, remedy: string) {
    super(words);
    this.remedy = remedy;
  }
}
