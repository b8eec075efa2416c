import { call } from './client';
import { useSeeAs } from './see-as';

/** Notes that the person has opened an item. Whether it was noted is nobody’s concern here. */
export function noteOpened(id: string): void {
  // Who looks with somebody else’s eyes has opened nothing.
  if (!useSeeAs.getState().as) void call('openItem', { params: { id } }).catch(() => {});
}
