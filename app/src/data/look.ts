import { LOOK_COOKIE, type DeviceLook } from '@zephyrfield/core/api/look';

/** A cookie holds 4 KB with all that stands around it. */
const ROOM = 1_800;
/** Under what name the device keeps it */
export const SCREEN = 'zephyrfield-screen';
const YEAR = 31_536_000;

/** What this device remembers of how things are looked at, as far as the first view depends on it. */
export function kept(): Pick<DeviceLook, 'learnerId'> & { hidden: string[] } {
  try {
    const { state } = JSON.parse(localStorage.getItem(SCREEN) ?? 'null') as { state: { learnerId?: string | null; hidden?: string[] } };
    return { learnerId: state.learnerId ?? null, hidden: state.hidden ?? [] };
  } catch {
    return { learnerId: null, hidden: [] };
  }
}

/** Leaves it where the server sees it at the next visit. */
export function leaveLook({ learnerId, hidden }: ReturnType<typeof kept>): void {
  const said = (hidden: string[] | null) => encodeURIComponent(JSON.stringify({ learnerId, hidden } satisfies DeviceLook));
  const text = said(hidden);
  document.cookie = `${LOOK_COOKIE}=${text.length <= ROOM ? text : said(null)}; path=/; max-age=${YEAR}; samesite=strict`;
}
