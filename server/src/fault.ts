/**
 * The code of an error of the system or the database; empty where it has none. Told by what it has and not by its class:
 * a native module's errors may be of another realm than the code that catches them.
 */
export const codeOf = (error: unknown): string =>
  typeof error === 'object' && error !== null && 'code' in error ? String(error.code) : '';
