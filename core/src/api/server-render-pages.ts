import type { MonthPage } from '../out/page.ts';

/** What a page that needs no account is drawn from. */
export interface SharedPageInput {
  name: string;
  month: MonthPage;
  /** `6 October 2026, 16:10`, and the zone all hours are in */
  asOf: string;
  zone: string;
  /** Where this page stands, without what is asked of it; and the calendar beside it */
  path: string;
  address: string;
}

export type RenderSharedPage = (input: SharedPageInput) => string;
