import { schoolTerm } from '@zephyrfield/core/view/term';
import type { Term } from '@zephyrfield/core/view/settings';
import { useMemo } from 'react';

type Given = Parameters<typeof schoolTerm>;

/** Gives the term that is set for a learner, else the one that the school's calendars tell of around a day; null for none. */
export const useTerm = (
  { term }: { term: Term | null },
  occurrences: Given[0],
  calendars: Given[1],
  day: number,
): Term | null =>
  useMemo(() => term ?? schoolTerm(occurrences, calendars, day), [term, occurrences, calendars, day]);
