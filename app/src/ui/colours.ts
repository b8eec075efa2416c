import type { Colour } from '@zephyrfield/core/item/flag';

/** Classes of the calendar colours, whole so that the style builder finds them. */
export const FILL: Record<Colour, string> = {
  rust: 'bg-rust', deep: 'bg-deep', rose: 'bg-rose', violet: 'bg-violet', pine: 'bg-pine', plum: 'bg-plum',
  olive: 'bg-olive', shallow: 'bg-shallow', slate: 'bg-slate', honey: 'bg-honey', night: 'bg-night', clay: 'bg-clay',
}; // prettier-ignore

export const WASH: Record<Colour, string> = {
  rust: 'bg-rust-wash', deep: 'bg-deep-wash', rose: 'bg-rose-wash', violet: 'bg-violet-wash', pine: 'bg-pine-wash', plum: 'bg-plum-wash',
  olive: 'bg-olive-wash', shallow: 'bg-shallow-wash', slate: 'bg-slate-wash', honey: 'bg-honey-wash', night: 'bg-night-wash', clay: 'bg-clay-wash',
}; // prettier-ignore

/** For drawing: the colour as the style sheet holds it, light or dark. */
export const ink = (colour: Colour) => `var(--${colour})`;
