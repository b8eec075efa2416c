/**
 * The cookie in which a device keeps how its page is looked at, so that the server can draw the first view as
 * it will be.
 */
export const LOOK_COOKIE = 'zephyrfield-look';

/** Content of the cookie, as JSON. */
export interface DeviceLook {
  /** The learner last chosen */
  learnerId: string | null;
  /** Ids of hidden calendars; null where they are too many for a cookie */
  hidden: string[] | null;
}
