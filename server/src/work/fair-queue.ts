/** More of one owner waits than may. */
export class QueueFull extends Error {}

interface Waiting {
  begin(): void;
}

/**
 * Does work a few pieces at a time, in turn between the owners: however much one of them asks for, another waits for one
 * piece of each at the most.
 */
export class FairQueue {
  private readonly waiting = new Map<string, Waiting[]>();
  private busy = 0;

  /**
   * @param atOnce pieces that are worked on at once
   * @param mostOfOwner pieces of one owner that may wait
   */
  constructor(
    private readonly atOnce: number,
    private readonly mostOfOwner: number,
  ) {}

  /** Does a piece of work once it is its owner's turn. @throws QueueFull where too many of this owner wait */
  async run<T>(owner: string, work: () => Promise<T>): Promise<T> {
    const own = this.waiting.get(owner) ?? [];
    if (own.length >= this.mostOfOwner) throw new QueueFull();
    await new Promise<void>((begin) => {
      own.push({ begin });
      this.waiting.set(owner, own);
      this.next();
    });
    try {
      return await work();
    } finally {
      this.busy--;
      this.next();
    }
  }

  /** Begins what comes next; an owner with more goes to the end of the line. */
  private next(): void {
    while (this.busy < this.atOnce) {
      const [first] = this.waiting;
      if (!first) return;
      const [owner, pieces] = first;
      this.waiting.delete(owner);
      const piece = pieces.shift()!;
      if (pieces.length) this.waiting.set(owner, pieces);
      this.busy++;
      piece.begin();
    }
  }
}
