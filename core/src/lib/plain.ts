/** Text as it is searched: in small letters, without accents. */
export const plain = (text: string): string => text.normalize('NFD').replace(/\p{M}/gu, '').toLowerCase();

/** The words of a text as they are compared: plain, each once. */
export const wordsIn = (text: string): Set<string> => new Set(plain(text).match(/[\p{L}\p{N}]+/gu) ?? []);
