const plugin = require('tailwindcss/plugin');

const v = (name) => `var(--${name})`;
const calendarColours = [
  'rust',
  'deep',
  'rose',
  'violet',
  'pine',
  'plum',
  'olive',
  'shallow',
  'slate',
  'honey',
  'night',
  'clay',
];

/** @type {import('tailwindcss').Config} */
module.exports = {
  content: ['./src/**/*.{ts,tsx}'],
  presets: [require('nativewind/preset')],
  plugins: [
    // What stands in a `measured` box may look otherwise `within-[…]` a width: as wide as the box is, not the
    // window.
    plugin(({ addUtilities, addVariant, matchVariant }) => {
      // On a short screen, a phone on its side or a page at 200 %, the head scrolls away with the rest.
      addVariant('short', '@media (max-height: 700px)');
      addUtilities({ '.measured': { 'container-type': 'inline-size' } });
      matchVariant('within', (width) => `@container (max-width: ${width})`);
    }),
  ],
  theme: {
    extend: {
      colors: {
        paper: v('paper'),
        sheet: v('sheet'),
        ink: v('ink'),
        ink2: v('ink2'),
        line: v('line'),
        lagoon: { DEFAULT: v('lagoon'), wash: v('lagoon-wash'), on: v('lagoon-on') },
        poppy: { DEFAULT: v('poppy'), wash: v('poppy-wash') },
        marigold: { DEFAULT: v('marigold'), fill: v('marigold-fill'), wash: v('marigold-wash') },
        fern: { DEFAULT: v('fern'), wash: v('fern-wash') },
        ...Object.fromEntries(calendarColours.map((c) => [c, { DEFAULT: v(c), wash: v(`${c}-wash`) }])),
      },
      fontFamily: {
        text: ['Atkinson Hyperlegible Next Variable', 'sans-serif'],
        display: ['Bricolage Grotesque Variable', 'sans-serif'],
      },
      fontSize: {
        fine: ['0.8125rem', { lineHeight: '1.125rem' }],
        tight: ['min(0.8125rem, 14px)', { lineHeight: 'min(1.125rem, 20px)' }],
        day: ['1rem', { lineHeight: '1.375rem' }],
        small: ['0.875rem', { lineHeight: '1.25rem' }],
        body: ['1rem', { lineHeight: '1.5rem' }],
        lead: ['1.125rem', { lineHeight: '1.5rem' }],
        title: ['1.375rem', { lineHeight: '1.75rem' }],
        display: ['2rem', { lineHeight: '2.25rem' }],
      },
      minHeight: { touch: '44px' },
      minWidth: { touch: '44px' },
      screens: { wide: '900px' },
    },
  },
};
