interface Sent {
  /** The note that was written last: null, or what one’s own has in common with those that were sent with it */
  last: { sentAs: string | null; words: string };
  unread: number;
}

/** Puts threads together whose last note one sent to several crews at once; each group stands where its first thread stood. */
export function sentOnce<T extends Sent>(threads: readonly T[]): T[][] {
  const groups = new Map<string, T[]>();
  return threads.reduce<T[][]>((all, thread) => {
    const { sentAs, words } = thread.last;
    // What was put otherwise in one of them since is not the same note any more.
    const key = JSON.stringify([sentAs, words]);
    const known = sentAs === null ? undefined : groups.get(key);
    if (known && !thread.unread) known.push(thread);
    else {
      const group = [thread];
      all.push(group);
      if (sentAs !== null && !thread.unread) groups.set(key, group);
    }
    return all;
  }, []);
}
