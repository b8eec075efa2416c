import type { EntryContent } from '../ical/content.ts';
import { whenShift } from '../time/shift.ts';
import type { FeedItem } from '../ical/feed-item.ts';
import { expandSeries } from '../recurrence/series.ts';
import { untilText } from '../recurrence/pattern.ts';
import { parseRule } from '../recurrence/rule.ts';
import { DAY } from '../time/civil.ts';
import { instantIn, localIn, recurrenceIdOf, type When, type ZoneFinder } from '../time/when.ts';
import type { Zone } from '../time/zone.ts';
import { isWork, type HandInWay, type ItemKind } from './kind.ts';

/** One date of a repeated item that differs from the rest. */
export interface OwnChange {
  /** Place where it stood before any change: its name among the dates */
  of: When;
  /** Not on this date at all */
  calledOff?: boolean | undefined;
  title?: string | undefined;
  place?: string | undefined;
  details?: string | undefined;
  when?: When | undefined;
  end?: When | null | undefined;
}

/** An item of a person's own making. */
export interface OwnItem {
  kind: ItemKind;
  handIn: HandInWay;
  title: string;
  place: string;
  details: string;
  /** Moment when work is due, or when the rest begins; null for what has no date yet */
  when: When | null;
  /** For what is not work: when it ends (an all-day end is the day after the last, RFC 5545 3.6.1) */
  end: When | null;
  /** A rule (RFC 5545 3.3.10) with the dates left out of it */
  repeat: { rule: string; except: When[] } | null;
  changes: OwnChange[];
}

const BARE = {
  sequence: 0,
  html: null,
  url: null,
  links: [],
  categories: [],
  status: 'confirmed',
  length: null,
  completed: null,
  percent: null,
  andFuture: false,
  alarms: [],
  extra: [],
  line: 0,
  digest: 0,
} as const;

/**
 * An own item as an entry, as if a feed had brought it: so that it is expanded, shown and sent out as
 * everything else is.
 */
export function contentOf(own: OwnItem, uid: string): EntryContent {
  // A test with an end is sat at its hours.
  const work = isWork(own.kind) && own.end === null;
  const at = (when: When | null, end: When | null) =>
    work ? { start: null, due: when, end: null } : { start: when, due: null, end };
  const master: FeedItem = {
    ...BARE,
    links: [],
    categories: [],
    alarms: [],
    extra: [],
    component: work || own.when === null ? 'VTODO' : 'VEVENT',
    uid,
    title: own.title,
    description: own.details,
    place: own.place,
    ...at(own.when, own.end),
    repeat: own.repeat && {
      rules: [own.repeat.rule],
      exceptRules: [],
      dates: [],
      exceptDates: [...own.repeat.except, ...own.changes.filter((c) => c.calledOff).map((c) => c.of)],
    },
    recurrenceId: null,
  };
  const overrides = own.changes
    .filter((c) => !c.calledOff)
    .map((c): FeedItem => {
      const when = c.when ?? c.of;
      return {
        ...master,
        repeat: null,
        recurrenceId: c.of,
        title: c.title ?? own.title,
        description: c.details ?? own.details,
        place: c.place ?? own.place,
        ...at(when, c.end === undefined ? endFor(own, when) : c.end),
      };
    });
  return { master, overrides };
}

/** The end of a date that begins at `when`, as long after it as the item's own. */
function endFor({ when: first, end }: OwnItem, when: When): When | null {
  return first && end ? whenShift(end, first, when) : null;
}

/** Reads back what `contentOf` wrote. */
export function ownOf(
  { master, overrides }: EntryContent,
  { kind, handIn }: { kind: ItemKind; handIn: HandInWay },
): OwnItem {
  const face = master!;
  const own: OwnItem = {
    kind,
    handIn,
    title: face.title,
    place: face.place,
    details: face.description,
    when: face.start ?? face.due,
    end: face.end,
    repeat: null,
    changes: [],
  };
  if (face.repeat) own.repeat = { rule: face.repeat.rules[0] ?? '', except: face.repeat.exceptDates };
  own.changes = overrides.map((o) => {
    const change: OwnChange = { of: o.recurrenceId! };
    const when = o.start ?? o.due;
    if (o.title !== face.title) change.title = o.title;
    if (o.place !== face.place) change.place = o.place;
    if (o.description !== face.description) change.details = o.description;
    if (when && recurrenceIdOf(when) !== recurrenceIdOf(o.recurrenceId!)) change.when = when;
    const usual = when && endFor(own, when);
    if ((o.end && recurrenceIdOf(o.end)) !== (usual && recurrenceIdOf(usual))) change.end = o.end;
    return change;
  });
  return own;
}

/** Every time an own item stands at between two instants (milliseconds), in order. */
export function timesOf(
  own: OwnItem,
  {
    from,
    to,
    zone,
    zones,
    limit = 400,
  }: { from: number; to: number; zone: Zone; zones: ZoneFinder; limit?: number },
): When[] {
  const { master, overrides } = contentOf(own, 'own');
  return expandSeries(master, overrides, { from, to, viewer: zone, zones, limit, warn: () => {} })
    .map((o) => o.due ?? o.start)
    .sort((a, b) => instantIn(a, zone) - instantIn(b, zone))
    .slice(0, limit);
}

/** Changes one date of a repeated item. What it takes over from before stays. */
export function changeOne(own: OwnItem, of: When, change: Omit<OwnChange, 'of'>): OwnItem {
  const key = recurrenceIdOf(of);
  const before = own.changes.find((c) => recurrenceIdOf(c.of) === key);
  return {
    ...own,
    changes: [...own.changes.filter((c) => recurrenceIdOf(c.of) !== key), { ...before, ...change, of }],
  };
}

/**
 * Parts a repeated item in two: what stands before `of`, and from `of` on. Changes and dates left out go with
 * their side. Null for the first where nothing stands before.
 */
export function splitAt(
  own: OwnItem,
  of: When,
  zone: Zone,
  zones: ZoneFinder,
): { before: OwnItem | null; after: OwnItem } {
  const at = instantIn(of, zone);
  const isBefore = (w: When) => instantIn(w, zone) < at;
  const { repeat, when } = own;
  if (!repeat || !when) return { before: null, after: own };
  const side = (keep: (w: When) => boolean) => ({
    changes: own.changes.filter((c) => keep(c.of)),
    except: repeat.except.filter(keep),
  });
  const parts = repeat.rule.split(';').filter((p) => !/^(UNTIL|COUNT)=/i.test(p));
  const { count } = parseRule(repeat.rule);
  const before = side(isBefore);
  const after = side((w) => !isBefore(w));
  // What a rule counts is what it gives, dates left out included.
  const given = isBefore(when)
    ? timesOf(
        { ...own, changes: [], repeat: { ...repeat, except: [] } },
        { from: instantIn(when, zone) - DAY, to: at, zone, zones, limit: 100_000 },
      ).filter(isBefore).length
    : 0;
  const lastDay = Math.floor(localIn(of, zone) / DAY) - 1;
  const ended = [...parts, `UNTIL=${untilText(lastDay, when, zone)}`].join(';');
  const rest =
    count === undefined ? repeat.rule : [...parts, `COUNT=${Math.max(1, count - given)}`].join(';');
  return {
    before:
      given > 0 ? { ...own, repeat: { rule: ended, except: before.except }, changes: before.changes } : null,
    after: {
      ...own,
      when: of,
      end: endFor(own, of),
      repeat: { rule: rest, except: after.except },
      changes: after.changes,
    },
  };
}
