import type { Db } from './open.ts';

/** One date of an item. */
export interface DateOf {
  itemId: string;
  recurrenceId: string;
}

/** The tables of what is added to items: by a learner's crew together, and by each person for themselves. */
const TABLES = ['layer', 'person_layer'] as const;
/** Stands before a name while its row is on the way; no recurrence-id begins with it. */
const ON_THE_WAY = '>';

/**
 * Takes what people have added to items along when an item or its date gets another name. Where something
 * stands at the new place already, that stays, and so does the other where it is.
 */
export function layerCarrier({ $client: sqlite }: Db) {
  const moves = TABLES.map((table) =>
    sqlite.prepare<[string, string, string, string]>(
      `UPDATE OR IGNORE ${table} SET item_id = ?, recurrence_id = ? WHERE item_id = ? AND recurrence_id = ?`,
    ),
  );
  const handOvers = TABLES.map((table) =>
    sqlite.prepare<{ from: string; to: string }>(
      `UPDATE OR IGNORE ${table} SET item_id = @to WHERE item_id = @from
        AND recurrence_id IN (SELECT recurrence_id FROM occurrence WHERE item_id = @to)`,
    ),
  );
  const datesOf = sqlite
    .prepare<{ itemId: string }, string>(
      TABLES.map((table) => `SELECT recurrence_id FROM ${table} WHERE item_id = @itemId`).join(' UNION '),
    )
    .pluck();
  const move = (from: DateOf, to: DateOf) => {
    for (const statement of moves) statement.run(to.itemId, to.recurrenceId, from.itemId, from.recurrenceId);
  };
  return {
    move,
    /** Several at once, among them such that take each other's names. */
    moveAll(list: readonly { from: DateOf; to: DateOf }[]): void {
      const onTheWay = (to: DateOf) => ({ ...to, recurrenceId: ON_THE_WAY + to.recurrenceId });
      for (const { from, to } of list) move(from, onTheWay(to));
      for (const { to } of list) move(onTheWay(to), to);
      for (const { from, to } of list) move(onTheWay(to), from);
    },
    /** All of one item's that fit a date of another one, which is shown in its place. */
    handOver(from: string, to: string): void {
      for (const statement of handOvers) statement.run({ from, to });
    },
    /** The dates of an item that somebody has added something to */
    datesOf: (itemId: string) => datesOf.all({ itemId }),
  };
}
export type LayerCarrier = ReturnType<typeof layerCarrier>;
