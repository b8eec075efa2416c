/** Words as the beginning of a line. */
export const capital = (words: string): string => words.charAt(0).toUpperCase() + words.slice(1);

export const plural = (n: number, one: string, many = one + 's') => `${n} ${n === 1 ? one : many}`;
