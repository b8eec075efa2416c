import { z } from 'zod';

/** The things a request may name by an id, and what each is called where it is not found. */
export const CLAIM_KINDS = {
  learner: 'schedule',
  calendar: 'calendar',
  source: 'source',
  waitingFile: 'file that waits',
  item: 'item',
  briefFile: 'file',
  briefText: 'brief',
  keptBrief: 'brief of yours',
  notice: 'notice',
  member: 'person in the crew',
  invitation: 'invitation',
  share: 'link',
  offer: 'offer',
  openTime: 'offer of times',
  openSlot: 'time',
  booking: 'time that is taken',
  thread: 'thread',
  note: 'note',
  noteFile: 'file',
  outline: 'outline',
  session: 'session',
  passkey: 'passkey',
} as const;
export type ClaimKind = keyof typeof CLAIM_KINDS;

/**
 * An id as it came in. It is not a string on purpose: nothing can be done with it before the server has
 * admitted it, which turns it into an `AdmittedId` (see `server/people/access`).
 */
export class Claim<K extends ClaimKind = ClaimKind> {
  constructor(
    readonly kind: K,
    readonly id: string,
    /**
     * Where it is not admitted, it is left out instead of the request being refused: a preference about what
     * is gone
     */
    readonly lenient = false,
  ) {}
}

/** Values by ids that came in. Entries whose id is not admitted are left out. */
export class ClaimedRecord<K extends ClaimKind = ClaimKind, V = unknown> {
  constructor(
    readonly kind: K,
    readonly values: Readonly<Record<string, V>>,
  ) {}
}

declare const admitted: unique symbol;
/** An id of something that whoever asks may have to do with. */
export type AdmittedId<K extends ClaimKind = ClaimKind> = string & { readonly [admitted]: K };

/** Request with its claims admitted. */
export type Admitted<T> =
  T extends Claim<infer K>
    ? AdmittedId<K>
    : T extends ClaimedRecord<ClaimKind, infer V>
      ? Record<string, V>
      : T extends string | number | boolean | null | undefined | Uint8Array
        ? T
        : T extends readonly (infer U)[]
          ? Admitted<U>[]
          : { [P in keyof T]: Admitted<T[P]> };

const registry = z.registry<Omit<ClaimPlace, 'path'>>();
const Text = z.string().min(1).max(64);

const claiming = <K extends ClaimKind>(kind: K, lenient: boolean) => {
  const type = Text.transform((id) => new Claim(kind, id, lenient));
  registry.add(type, { kind, lenient });
  return type;
};

/** The check of an id that names something of this kind. */
export const claim = <K extends ClaimKind>(kind: K) => claiming(kind, false);
/** The same where what it names may be gone: it is then left out. */
export const lenientClaim = <K extends ClaimKind>(kind: K) => claiming(kind, true);

/** The check of a whole number that names something of this kind, as a number or (in a path) as a text. */
export function numberClaim<K extends ClaimKind, I extends 'number' | 'text'>(
  kind: K,
  as: I,
  lenient = false,
) {
  const number = z.number().int().nonnegative();
  const from = as === 'number' ? number : z.string().regex(/^\d{1,15}$/, 'That is no number.');
  const type = (from as I extends 'number' ? typeof number : z.ZodString).transform(
    (id) => new Claim(kind, String(id), lenient),
  );
  registry.add(type, { kind, lenient });
  return type;
}

/** The check of values by ids. */
export function claimedRecord<K extends ClaimKind, V extends z.ZodType>(kind: K, value: V, most: number) {
  const record = z
    .record(z.string().max(64), value)
    .refine((all) => Object.keys(all).length <= most, `At most ${most}.`);
  const type = record.transform((values) => new ClaimedRecord<K, z.output<V>>(kind, values));
  registry.add(type, { kind, lenient: true });
  return type;
}

/** A place where a check lets an id in: `writes.*.from`; `*` stands for each of a list. */
export interface ClaimPlace {
  path: string;
  kind: ClaimKind;
  /** What is not admitted there is left out */
  lenient: boolean;
}

/** Parts of a check, as far as it is looked into here. */
interface Inner {
  shape?: Record<string, z.ZodType>;
  element?: z.ZodType;
  innerType?: z.ZodType;
  options?: readonly z.ZodType[];
  in?: z.ZodType;
  out?: z.ZodType;
  valueType?: z.ZodType;
}

/** Walks all places of a check: `visit` is told each, and whether to look no further into it. */
export function walkCheck(
  type: z.ZodType,
  visit: (type: z.ZodType, path: string) => boolean,
  path = '',
): void {
  if (visit(type, path)) return;
  const below = (name: string) => (path ? `${path}.${name}` : name);
  const { shape, element, innerType, options, in: input, out, valueType } = type.def as Inner;
  for (const [name, each] of Object.entries(shape ?? {})) walkCheck(each, visit, below(name));
  if (element) walkCheck(element, visit, below('*'));
  if (valueType) walkCheck(valueType, visit, below('*'));
  for (const each of [innerType, input, out, ...(options ?? [])]) if (each) walkCheck(each, visit, path);
}

/** All places of a check where ids come in. */
export function claimPlaces(type: z.ZodType): ClaimPlace[] {
  const found: ClaimPlace[] = [];
  walkCheck(type, (each, path) => {
    const known = registry.get(each);
    if (known && !found.some((f) => f.path === path)) found.push({ path, ...known });
    return Boolean(known);
  });
  return found;
}

/** The claims in what has been checked, in no particular order. */
export function claimsIn(value: unknown): (Claim | ClaimedRecord)[] {
  if (value instanceof Claim || value instanceof ClaimedRecord) return [value];
  if (typeof value !== 'object' || value === null || value instanceof Uint8Array) return [];
  return Object.values(value).flatMap(claimsIn);
}

/**
 * Input that has been checked, with ids in place of its claims.
 * @param isAdmitted whether a lenient claim is to stay
 */
export function withIds<T>(value: T, isAdmitted: (claim: Claim) => boolean): Admitted<T> {
  const settle = (each: unknown): unknown => {
    if (each instanceof Claim) return !each.lenient || isAdmitted(each) ? each.id : undefined;
    if (each instanceof ClaimedRecord)
      return Object.fromEntries(
        Object.entries(each.values).filter(([id]) => isAdmitted(new Claim(each.kind, id))),
      );
    if (typeof each !== 'object' || each === null || each instanceof Uint8Array) return each;
    if (Array.isArray(each))
      return each.flatMap((one: unknown) => (one instanceof Claim ? (settle(one) ?? []) : [settle(one)]));
    return Object.fromEntries(Object.entries(each).map(([name, one]) => [name, settle(one)]));
  };
  return settle(value) as Admitted<T>;
}
