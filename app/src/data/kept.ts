// What a device has kept may have been written by an older version, by hand or by something else: only what
// is what it should be is taken over. Without a checker, since this is read before anything else.

export const isRecord = (value: unknown): value is Record<string, unknown> =>
  typeof value === 'object' && value !== null && !Array.isArray(value);
export const isTexts = (value: unknown): value is string[] =>
  Array.isArray(value) && value.every((v) => typeof v === 'string');
