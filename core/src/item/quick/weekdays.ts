// Weekdays as people type them. The date library knows the dictionary's spelling.

const NAMES: readonly RegExp[] = [
  /^(mon|mond|mondy|munday|monday|montag)(s|’s|'s)?$/,
  /^(tue|tues|teus|tuesd|tusday|teusday|tuseday|tuesday|dienstag)(s|’s|'s)?$/,
  /^(wed|weds|wends|wens|wensday|wendsday|wednsday|wedensday|wednesday|mittwoch)(s|’s|'s)?$/,
  /^(thu|thur|thurs|thrs|thurday|thrusday|thusday|thursday|donnerstag)(s|’s|'s)?$/,
  /^(fri|frid|firday|friady|friday|freitag)(s|’s|'s)?$/,
  /^(sat|satur|saterday|satuday|saturday|samstag)(s|’s|'s)?$/,
  /^(sun|sund|sundy|sunday|sonntag)(s|’s|'s)?$/,
];

/** The ISO weekday a word names, and whether it means each of them: `tuesdays`. */
export function weekdayIn(text: string): { day: number; isEach: boolean } | null {
  const index = NAMES.findIndex((name) => name.test(text));
  if (index < 0) return null;
  return { day: index + 1, isEach: /days$/.test(text) };
}
