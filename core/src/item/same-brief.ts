/** Whether two briefs say the same, part by part; null is none. */
export function sameBrief<B extends object>(a: B | null, b: B | null): boolean {
  if (!a || !b) return a === b;
  return (Object.keys({ ...a, ...b }) as (keyof B)[]).every((part) => a[part] === b[part]);
}
