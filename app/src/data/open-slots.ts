import type { OpenSlotView } from '@zephyrfield/core/api/open-times';
import { useQuery } from '@tanstack/react-query';
import { call } from './client';
import { EVERYBODY } from './queries';

/** The times that are offered to a learner. */
export const useOpenSlots = (learnerId: string) =>
  useQuery<OpenSlotView[]>({
    queryKey: ['learner', learnerId, 'open times'],
    queryFn: () => call('openSlots', { params: { learnerId } }),
    enabled: learnerId !== EVERYBODY && learnerId !== '',
  });
