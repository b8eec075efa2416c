import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { refreshBriefs } from './briefs';
import { problemOf } from './client';

/**
 * Sends files one after the other; one that is refused stops none of those beside it.
 * @param send sends one, and tells how much of it is there, from 0 to 1
 */
export function useSendFiles(
  send: (file: File, onShare: (share: number | null) => void) => Promise<unknown>,
) {
  const [share, setShare] = useState<number | null>(null);
  const { data, error, isPending, mutate } = useMutation({
    mutationFn: async (files: readonly File[]) => {
      const refused: { name: string; problem: ReturnType<typeof problemOf> }[] = [];
      for (const file of files)
        await send(file, setShare).catch((why: unknown) =>
          refused.push({ name: file.name, problem: problemOf(why) }),
        );
      return refused;
    },
    onSettled: () => {
      setShare(null);
      return refreshBriefs();
    },
  });
  return { begin: (files: readonly File[]) => mutate(files), share, isPending, error, refused: data ?? [] };
}
export type Sending = ReturnType<typeof useSendFiles>;
