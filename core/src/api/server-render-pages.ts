import type { MonthPage } from '../out/page.ts';
import type { Paper } from '../out/paper.ts';
import type { PaperAsked } from '../out/paper-size.ts';
import type { Brief } from './own.ts';

/** Data that a page without an account is drawn from. */
export interface SharedPageInput {
  name: string;
  month: MonthPage;
  /** `6 October 2026, 16:10`, and the zone all hours are in */
  asOf: string;
  zone: string;
  /** Place where this page stands, without what is asked of it; and the calendar beside it */
  path: string;
  address: string;
}

export type RenderSharedPage = (input: SharedPageInput) => string;

/** Pages that are printed, each learner on pages of their own. */
export interface PapersInput {
  papers: (Paper & { briefs: PaperBrief[] })[];
  asked: Pick<PaperAsked, 'size' | 'turn'>;
}
/** A brief that stands after what it is of. */
export interface PaperBrief {
  title: string;
  brief: Brief;
}
export type RenderPapers = (input: PapersInput) => string;
