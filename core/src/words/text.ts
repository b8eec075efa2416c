/** Words as the beginning of a line. */
export const capital = (words: string): string => words.charAt(0).toUpperCase() + words.slice(1);

export const plural = (n: number, one: string, many = one + 's') => `${n} ${n === 1 ? one : many}`;

/** Gives what somebody is called for short: the first of their names. */
export const firstName = (name: string): string => name.split(' ')[0]!;
