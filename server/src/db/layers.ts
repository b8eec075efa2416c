import type { Db } from './open.ts';
import type { HandedOver } from './schema/columns.ts';

/** One date of an item. */
export interface DateOf {
  itemId: string;
  recurrenceId: string;
}

/** The tables of what is added to items: by a learner's crew together, and by each person for themselves. */
const TABLES = ['layer', 'person_layer', 'run_up'] as const;
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
  const WHOSE = { layer: "''", person_layer: 'person_id', run_up: "''" } as const;
  const handOvers = TABLES.map((table) => ({
    table,
    statement: sqlite.prepare<{ from: string; to: string }, Omit<HandedOver, 'table' | 'from' | 'to'>>(
      `UPDATE OR IGNORE ${table} SET item_id = @to WHERE item_id = @from
        AND recurrence_id IN (SELECT recurrence_id FROM occurrence WHERE item_id = @to)
        RETURNING recurrence_id AS recurrenceId, ${WHOSE[table]} AS personId`,
    ),
  }));
  const giveBacks = Object.fromEntries(
    TABLES.map((table) => [
      table,
      sqlite.prepare<HandedOver>(
        `UPDATE OR IGNORE ${table} SET item_id = @from WHERE item_id = @to AND recurrence_id = @recurrenceId
          AND ${WHOSE[table]} = @personId`,
      ),
    ]),
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
    /** All of one item's that fit a date of another one, which is shown in its place; gives what that was. */
    handOver: (from: string, to: string): HandedOver[] =>
      handOvers.flatMap(({ table, statement }) =>
        statement.all({ from, to }).map((row) => ({ ...row, table, from, to })),
      ),
    /** Gives back what was handed over, as far as it is there still. */
    giveBack(all: readonly HandedOver[]): void {
      for (const each of all) giveBacks[each.table]!.run(each);
    },
    /** The dates of an item that somebody has added something to */
    datesOf: (itemId: string) => datesOf.all({ itemId }),
  };
}
export type LayerCarrier = ReturnType<typeof layerCarrier>;
