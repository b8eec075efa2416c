import { Parser, type Handler } from 'htmlparser2';

/** Elements in one another that are read; a page that somebody has written has some dozens. */
const DEEPEST = 256;
/** Characters that are read between two looks at the depth. */
const PIECE = 4_096;

/**
 * Reads HTML with a streaming parser. Ends where more elements are open in one another than anybody writes: the parser
 * looks through all of them at each end tag, which would take quadratic time.
 */
export function readHtml(html: string, { onopentag, onclosetag, ...handler }: Partial<Handler>): void {
  let depth = 0;
  const parser = new Parser({
    ...handler,
    onopentag(name, attributes, isImplied) {
      depth++;
      onopentag?.(name, attributes, isImplied);
    },
    onclosetag(name, isImplied) {
      depth--;
      onclosetag?.(name, isImplied);
    },
  });
  for (let at = 0; at < html.length && depth <= DEEPEST; at += PIECE)
    parser.write(html.slice(at, at + PIECE));
  parser.end();
}
