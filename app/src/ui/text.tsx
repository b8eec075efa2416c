import { Text as NativeText, type TextProps } from 'react-native';

type TextKind =
  'body' | 'strong' | 'small' | 'fine' | 'tight' | 'day' | 'lead' | 'title' | 'display' | 'label';

const KINDS: Record<TextKind, string> = {
  body: 'font-text text-body',
  strong: 'font-text text-body font-bold',
  small: 'font-text text-small',
  /** In views with many small things; nothing is smaller */
  fine: 'font-text text-fine',
  /** As fine, where a drawing leaves no more room: it grows with the system's text only so far */
  tight: 'font-text text-tight',
  day: 'font-display text-day',
  lead: 'font-text text-lead font-bold',
  title: 'font-display text-title font-bold',
  display: 'font-display text-display font-extrabold',
  label: 'font-text text-small font-bold',
};

/**
 * A colour of its own takes the place of the kind's; of two classes for one thing the style sheet's order
 * would decide.
 */
const COLOURED = /(^|\s)text-(ink2?|lagoon(-on)?|poppy|marigold|fern)(\s|$)/;

export interface Props extends TextProps {
  kind?: TextKind;
  className?: string;
  /** Makes it a heading of that level for those who read by headings */
  heading?: 1 | 2 | 3;
}

/** All text on screen. A class of its own may change a kind's colour or place, not its face. */
export function Text({ kind = 'body', heading, className = '', ...props }: Props) {
  const role = heading ? ({ role: 'heading', 'aria-level': heading } as const) : {};
  return (
    <NativeText
      {...role}
      {...props}
      className={`${KINDS[kind]} ${COLOURED.test(className) ? '' : kind === 'small' ? 'text-ink2' : 'text-ink'} ${className}`}
    />
  );
}
