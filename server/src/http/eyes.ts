/**
 * Names somebody who looks at one schedule with another's eyes. What is kept from either of them is kept from this
 * name, it may only look, and it sees nothing of what the other has for themselves (notes, hidden items). It is nobody's
 * id.
 */
const AS = 'as ';
export const withEyesOf = (ownId: string, memberId: string, learnerId: string): string =>
  `${AS}${learnerId} ${ownId} ${memberId}`;

/** Names somebody who sees of a schedule only what is for everybody in its crew, and nothing kept from themself. */
export const asEverybody = (personId: string, learnerId: string): string =>
  withEyesOf(personId, '*', learnerId);

/** Gives the people whose sight limits what a name sees: the person alone, or both where one looks with another's eyes. */
export const eyesOf = (personId: string): readonly string[] =>
  personId.startsWith(AS) ? personId.split(' ').slice(2) : [personId];

/** Gives the schedule that a name sees with another's eyes, and whose; null for a person. */
export function seenBy(personId: string): { learnerId: string; memberId: string } | null {
  if (!personId.startsWith(AS)) return null;
  const [, learnerId, , memberId] = personId.split(' ');
  return { learnerId: learnerId!, memberId: memberId! };
}
