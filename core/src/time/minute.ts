/** A minute of the day as fields have it: `16:30`. What is after midnight begins again. */
export const clockOf = (minute: number): string =>
  `${String(Math.floor(minute / 60) % 24).padStart(2, '0')}:${String(minute % 60).padStart(2, '0')}`;

/** The minute of the day that a field says; null where it says none. */
export const minuteOfClock = (text: string): number | null =>
  /^\d\d:\d\d$/.test(text) ? Number(text.slice(0, 2)) * 60 + Number(text.slice(3)) : null;
