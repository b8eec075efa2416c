import { problemOf } from '@/data/client';
import type { Sending } from '@/data/send-files';
import { ProblemNotice } from '@/ui/notice';
import { Progress } from '@/ui/progress';

/** Shows how far files are sent, and which of them were refused and why. */
export function SentFiles({ sending: { share, isPending, error, refused } }: { sending: Sending }) {
  return (
    <>
      {isPending ? <Progress share={share} words="Sending …" /> : null}
      <ProblemNotice problem={error && problemOf(error)} />
      {refused.map(({ name, problem }) => (
        <ProblemNotice key={name} problem={{ ...problem, title: `${name}: ${problem.title}` }} />
      ))}
    </>
  );
}
