import { rmSync } from 'node:fs';
import { PREPARED } from './servers';

/** Has a run make its demos anew: those kept from another one may be of other code. */
export default function begin(): void {
  rmSync(PREPARED, { recursive: true, force: true });
}
