/**
 * Parts that are loaded when they are first needed, by name. Whoever needs one declares it here (`declare module`), and
 * `bundles/` hands all of them in: so nobody knows in which bundle a part lies, nor what else is in it.
 */
// Others add to it.
// eslint-disable-next-line @typescript-eslint/no-empty-object-type
export interface LateParts {}

type Loaders = { [N in keyof LateParts]: () => Promise<LateParts[N]> };
let loaders: Partial<Loaders> = {};

/** Takes in how each part is loaded. */
export function handIn(parts: Loaders): void {
  loaders = parts;
}

/** Gives what loads a part. */
export const late =
  <N extends keyof LateParts>(name: N) =>
  (): Promise<LateParts[N]> =>
    loaders[name]!();
