import { hash } from './hash.ts';

/**
 * The version of something two people may write: a name for what it says, the same for the same content
 * whatever the order of its keys. A write names the version it was made on, and is refused where another one
 * stands by then.
 * @example versionOf({ a: 1, b: 2 }) === versionOf({ b: 2, a: 1 })
 * @returns null where there is nothing
 */
export const versionOf = (value: object | null | undefined): string | null =>
  value == null ? null : hash(JSON.stringify(value, inOrder));

const inOrder = (_: string, value: unknown) =>
  value && typeof value === 'object' && !Array.isArray(value)
    ? Object.fromEntries(Object.entries(value).sort(([a], [b]) => (a < b ? -1 : 1)))
    : value;
