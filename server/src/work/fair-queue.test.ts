import { FairQueue, QueueFull } from './fair-queue';

test('whoever asks for little waits for one piece of each other, and who asks for too much is refused', async () => {
  const queue = new FairQueue(1, 5);
  const done: string[] = [];
  const ask = (owner: string) => queue.run(owner, () => Promise.resolve(done.push(owner)));
  // One is worked on until all others have come.
  let finish = () => {};
  const working = queue.run('a', () => new Promise<void>((end) => (finish = end)));
  const waiting = Array.from({ length: 5 }, () => ask('a'));
  await expect(ask('a')).rejects.toThrow(QueueFull);
  waiting.push(ask('b'), ask('c'));
  finish();
  await Promise.all([working, ...waiting]);
  expect(done).toEqual(['a', 'b', 'c', 'a', 'a', 'a', 'a']);
});

test('what fails holds up nothing, and no more is done at once than may be', async () => {
  const queue = new FairQueue(2, 100);
  let [now, most] = [0, 0];
  const piece = (n: number) =>
    queue.run(String(n % 3), async () => {
      most = Math.max(most, ++now);
      await new Promise((later) => setImmediate(later));
      now--;
      if (n % 4 === 0) throw new Error('it failed');
      return n;
    });
  const all = await Promise.allSettled(Array.from({ length: 20 }, (_, n) => piece(n)));
  expect(all.filter((each) => each.status === 'rejected')).toHaveLength(5);
  expect(most).toBe(2);
});
