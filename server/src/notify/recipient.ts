import type { NoticeSettings } from '@zephyrfield/core/notify/settings';
import type { Viewer } from '@zephyrfield/core/words/when';

/** Whoever is told, with what they want to be told and the clock on their wall. */
export interface Recipient {
  personId: string;
  noticeSettings: NoticeSettings;
  viewer: Viewer;
}
