import { create } from 'zustand';
import { onForget } from './forget';

/** With whose eyes the page looks, where it does not look with the person's own. */
export interface SeenAs {
  /** Names them in the crew */
  memberId: string;
  name: string;
  /** What they may do, as words */
  may: string;
  learnerId: string;
}

interface SeeAs {
  as: SeenAs | null;
}
/** It is not kept: a page that is opened anew shows what one sees oneself. */
export const useSeeAs = create<SeeAs>()(() => ({ as: null }));
onForget(() => useSeeAs.setState({ as: null }));
