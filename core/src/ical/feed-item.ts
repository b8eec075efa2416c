import type { Length, Repeat, Repeatable } from '../recurrence/repeatable.ts';
import type { When } from '../time/when.ts';
import type { Link } from './links.ts';
import type { Property } from './property.ts';

/**
 * A VALARM as it came (RFC 5545 3.6.6, RFC 9074): kept for reminders and for the way out, never carried out.
 */
export interface Alarm {
  action: string;
  /** Either relative to start or end (which for a to-do is its due date), or at a moment */
  trigger: { relativeTo: 'start' | 'end'; length: Length } | { at: When };
  description: string | null;
}

/** One VEVENT or VTODO as a feed states it, normalised. Nothing in it is guessed. */
export interface FeedItem extends Repeatable {
  component: 'VEVENT' | 'VTODO';
  uid: string;
  sequence: number;
  title: string;
  /** Plain text */
  description: string;
  /** Formatted alternative, not yet safe */
  html: string | null;
  place: string;
  url: string | null;
  links: Link[];
  categories: string[];
  status: 'confirmed' | 'tentative' | 'cancelled';
  /** VTODO: when it was completed, and how far it is (0 to 100) */
  completed: When | null;
  percent: number | null;
  repeat: Repeat | null;
  recurrenceId: When | null;
  andFuture: boolean;
  alarms: Alarm[];
  /** Properties with no meaning here, kept so that nothing is lost on the way out */
  extra: Property[];
  /** Line of its BEGIN in the feed */
  line: number;
  /** Digest of its block: the same one means the same content */
  digest: number;
  /** The opening and the closing it was joined from, and what closes after it is due; absent for most */
  windowOf?: [opening: FeedItem, closing: FeedItem, ...later: FeedItem[]];
}
