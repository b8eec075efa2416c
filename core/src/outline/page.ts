/** A cell of a table: what it says, and the day or the time that the file itself knows it to be. */
export interface PageCell {
  text: string;
  /** Day number, in a spreadsheet where a cell is a date */
  day?: number | undefined;
  /** Minute of the day */
  minute?: number | undefined;
  /** It is the cell above, which goes over several rows */
  isBelow?: boolean | undefined;
}

export interface PageRow {
  /** Place where it stands, in words: `line 14`, `Plan, row 3` */
  where: string;
  cells: PageCell[];
}

export interface PageLine {
  kind: 'line';
  where: string;
  text: string;
  /** 1 to 6 for a heading, 0 for none */
  level: number;
  /** How far in it begins, in letters */
  indent: number;
  /** One of a list */
  isItem: boolean;
  /** There is room above it: something else begins */
  isApart: boolean;
  /** No word more had room in it: what comes next may belong to it */
  isFull?: boolean | undefined;
}

export interface PageTable {
  kind: 'table';
  where: string;
  rows: PageRow[];
}

/** Content of a file without what it looks like: lines and tables in their order. Each reader makes one. */
export interface Page {
  blocks: (PageLine | PageTable)[];
  /** Parts that could not be read, in words */
  notes: string[];
}

/** A stretch of what a page says. In a table with the row and the cell, else both are 0. */
export interface Place {
  block: number;
  row: number;
  cell: number;
  from: number;
  to: number;
}
