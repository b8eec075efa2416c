/** What somebody may do in a learner's schedule, the least first: each may do what those before it may. */
export const ACCESSES = ['look', 'tick', 'edit'] as const;
export type Access = (typeof ACCESSES)[number];

/** Whether who has one access may do what asks for another. */
export const suffices = (has: Access, wanted: Access): boolean =>
  ACCESSES.indexOf(has) >= ACCESSES.indexOf(wanted);

/**
 * Who may change which part of the layer that a learner's crew shares. Ticking off is saying what was done:
 * that it is finished, how it was handed in with a word on it, and how long it took. All else decides how the
 * learner's schedule looks and when they are reminded. What each has for themselves (`PERSONAL`) is theirs to
 * change whatever they may do here.
 */
export const LAYER_ACCESS = {
  finished: 'tick',
  stillToDo: 'tick',
  handedIn: 'tick',
  spent: 'tick',
  timer: 'tick',
  aim: 'edit',
  estimate: 'edit',
  position: 'edit',
  reminders: 'edit',
} as const satisfies Record<string, Access>;
export type LayerField = keyof typeof LAYER_ACCESS;

/**
 * What somebody has to be allowed to make a change of the own layer: the most that one of its parts asks for.
 */
export function layerAccess(change: Partial<Record<LayerField, unknown>>): Access {
  const fields = (Object.keys(LAYER_ACCESS) as LayerField[]).filter((field) => change[field] !== undefined);
  return fields.some((field) => LAYER_ACCESS[field] === 'edit') ? 'edit' : 'tick';
}
