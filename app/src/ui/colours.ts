import type { Colour } from '@zephyrfield/core/item/flag';

/**
 * Classes of the calendar colours, whole so that the style builder finds them. Where a person has colours of their own,
 * a fill stays what it is: it says whose something is.
 */
export const FILL: Record<Colour, string> = {
  rust: 'keeps-colour bg-rust', deep: 'keeps-colour bg-deep', rose: 'keeps-colour bg-rose',
  violet: 'keeps-colour bg-violet', pine: 'keeps-colour bg-pine', plum: 'keeps-colour bg-plum',
  olive: 'keeps-colour bg-olive', shallow: 'keeps-colour bg-shallow', slate: 'keeps-colour bg-slate',
  honey: 'keeps-colour bg-honey', night: 'keeps-colour bg-night', clay: 'keeps-colour bg-clay',
}; // prettier-ignore

export const WASH: Record<Colour, string> = {
  rust: 'bg-rust-wash', deep: 'bg-deep-wash', rose: 'bg-rose-wash', violet: 'bg-violet-wash', pine: 'bg-pine-wash', plum: 'bg-plum-wash',
  olive: 'bg-olive-wash', shallow: 'bg-shallow-wash', slate: 'bg-slate-wash', honey: 'bg-honey-wash', night: 'bg-night-wash', clay: 'bg-clay-wash',
}; // prettier-ignore

/** For drawing: the colour as the style sheet holds it, light or dark. */
export const ink = (colour: Colour) => `var(--${colour})`;
