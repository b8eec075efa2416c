import { isWork, type ItemKind } from '../item/kind.ts';

/** Kinds of things that go out by a link: what is to be handed in or done, where to be, what is only to know, days off. */
export const SHARE_KINDS = ['due', 'place', 'note', 'dayOff'] as const;
export type ShareKind = (typeof SHARE_KINDS)[number];

export const shareKindOf = (kind: ItemKind): ShareKind => {
  if (isWork(kind)) return 'due';
  if (kind === 'reminder') return 'note';
  return kind === 'dayOff' ? 'dayOff' : 'place';
};

/** Extent of it: all that is written, titles and times alone, or hours without words. */
export const DETAILS = ['everything', 'titles', 'busy'] as const;
export type Detail = (typeof DETAILS)[number];

/** Form in which work goes out, since many programs show no to-dos: as a to-do, on the day it is due, or at its hour. */
export const WORK_FORMS = ['todo', 'day', 'hour'] as const;
export type WorkForm = (typeof WORK_FORMS)[number];

/** Settings of one link. */
export interface ShareRules {
  /** Chosen calendars; null for all, also those to come */
  calendars: string[] | null;
  kinds: ShareKind[];
  /** True where what is finished goes along */
  finished: boolean;
  detail: Detail;
  workAs: WorkForm;
  reminders: boolean;
  aims: boolean;
  sittings: boolean;
}

/** A link's name, for who may not know of a calendar that it names. */
export const PRIVATE_LINK = 'Private link';

export const DEFAULT_SHARE: ShareRules = {
  calendars: null,
  kinds: [...SHARE_KINDS],
  finished: true,
  detail: 'everything',
  workAs: 'day',
  reminders: false,
  aims: false,
  sittings: false,
};

/** Gives what goes out of one link in a few words: `all calendars, what is due · titles and times · work on its day` */
export function shareWords(
  { calendars, kinds, detail, workAs }: ShareRules,
  names: ReadonlyMap<string, string>,
): string {
  const which =
    calendars === null
      ? 'all calendars'
      : calendars.flatMap((id) => names.get(id) ?? []).join(', ') || 'no calendar';
  const what =
    kinds.length === SHARE_KINDS.length ? '' : kinds.map((kind) => SHARE_KIND_WORDS[kind]).join(', ');
  return [
    what ? `${which}: ${what}` : which,
    DETAIL_WORDS[detail],
    detail !== 'busy' && kinds.includes('due') ? WORK_FORM_WORDS[workAs] : '',
  ]
    .filter(Boolean)
    .join(' · ');
}

export const SHARE_KIND_WORDS: Record<ShareKind, string> = {
  due: 'what is due',
  place: 'where to be',
  note: 'reminders',
  dayOff: 'days off',
};
export const DETAIL_WORDS: Record<Detail, string> = {
  everything: 'everything written',
  titles: 'titles and times',
  busy: 'busy hours only',
};
export const WORK_FORM_WORDS: Record<WorkForm, string> = {
  todo: 'work as to-dos',
  day: 'work on its day',
  hour: 'work at its hour',
};
