import { LOOK_COOKIE, type DeviceLook } from '@zephyrfield/core/api/look';
import { isRecord, isTexts } from './kept';

/** A cookie holds 4 KB with all that stands around it. */
const ROOM = 1_800;
/** Under what name the device keeps it */
export const SCREEN = 'zephyrfield-screen';
const YEAR = 31_536_000;

type Kept = Pick<DeviceLook, 'learnerId'> & { hidden: string[]; everybody: boolean };

/** Gives what was kept, as far as the first view depends on it. */
export function lookIn(state: unknown): Kept {
  const { learnerId, everybody, hidden } = isRecord(state) ? state : {};
  return {
    learnerId: typeof learnerId === 'string' ? learnerId : null,
    hidden: isTexts(hidden) ? hidden : [],
    everybody: everybody === true,
  };
}

/** Gives what this device remembers of how things are looked at, as far as the first view depends on it. */
export function kept(): Kept {
  try {
    const found: unknown = JSON.parse(localStorage.getItem(SCREEN) ?? 'null');
    return lookIn(isRecord(found) ? found['state'] : null);
  } catch {
    return lookIn(null);
  }
}

/**
 * Leaves it where the server sees it at the next visit. It draws one learner’s Today: for all together, nothing is said,
 * and it draws none.
 */
export function leaveLook({ learnerId, everybody, hidden }: Kept): void {
  const said = (hidden: string[] | null) =>
    encodeURIComponent(JSON.stringify({ learnerId, hidden } satisfies DeviceLook));
  const text = said(hidden);
  document.cookie = `${LOOK_COOKIE}=${text.length <= ROOM && !everybody ? text : said(null)}; path=/; max-age=${YEAR}; samesite=strict`;
}
