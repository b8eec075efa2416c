// `npm run comments`: reads the comment of every export, and of whatever else has one. Few may begin with What, Whether, Who,
// Where or How; what an exported function does is said by a verb; most exports say something. `-- --list` names what it finds,
// `-- --list FOLDER` in one folder alone.
import { readFileSync, readdirSync } from 'node:fs';
import { join, relative } from 'node:path';
import ts from 'typescript';
import { root } from './lib/setup.mjs';

const ROOMS = ['core/src', 'server/src', 'app/src', 'stand-ins/src', 'demo/src'];
/** Words that a comment had better not begin with: they ask, and do not say. */
const ASKING = /^(?:What|Whether|Who|Whose|Whom|Where|How|When|Why|So (?:many|much|long|often|far))\b/;
/** Words that end like a verb in the third person, and are none. */
const NOUNS = new Set(
  'This Its Is Was Has Days Hours Minutes Words Names Dates Things Rows Items Notes Notices Links Titles Places Pages Files Fields'
    .concat(' Times Weeks Months Always Less Thus Plus Perhaps')
    .split(' '),
);
const beginsWithVerb = (text) => {
  const [word] = /^[A-Z][a-z]+s\b/.exec(text) ?? [];
  return word !== undefined && !NOUNS.has(word);
};
/** Shares that are aimed at, and those that have to hold meanwhile: raised as they are reached, never lowered. */
const AIMS = { asking: 0.05, verbs: 0.6, documented: 0.9 };
const BOUNDS = { asking: 0.105, verbs: 0.505, documented: 0.74 };

function* sources(folder) {
  for (const each of readdirSync(folder, { withFileTypes: true })) {
    const path = join(folder, each.name);
    if (each.isDirectory()) yield* sources(path);
    else if (/\.tsx?$/.test(each.name) && !/\.test\.tsx?$|\.d\.ts$/.test(each.name)) yield path;
  }
}

const found = { comments: 0, asking: [], functions: 0, unsaid: [], exports: 0, bare: [] };
const isFunction = (node) =>
  ts.isFunctionDeclaration(node) ||
  (ts.isVariableDeclaration(node) &&
    node.initializer &&
    (ts.isArrowFunction(node.initializer) || ts.isFunctionExpression(node.initializer)));

function look(path) {
  const file = ts.createSourceFile(path, readFileSync(path, 'utf8'), ts.ScriptTarget.Latest, true);
  const at = (node) =>
    `${relative(root, path)}:${file.getLineAndCharacterOfPosition(node.getStart(file)).line + 1}`;
  const walk = (node) => {
    const docs = node.jsDoc ?? [];
    const text = docs.length ? (ts.getTextOfJSDocComment(docs.at(-1).comment) ?? '').trim() : '';
    if (text) {
      found.comments++;
      if (ASKING.test(text)) found.asking.push(`${at(node)}  ${text.split('\n')[0]}`);
    }
    const isExported =
      node.modifiers?.some((m) => m.kind === ts.SyntaxKind.ExportKeyword) && node.parent === file;
    if (isExported) {
      const declared = ts.isVariableStatement(node) ? node.declarationList.declarations[0] : node;
      found.exports++;
      if (!docs.length) found.bare.push(`${at(node)}  ${declared.name?.getText(file) ?? ''}`);
      // A component is a thing, and named by a noun.
      const isComponent = path.endsWith('.tsx') && /^[A-Z]/.test(declared.name?.getText(file) ?? '');
      if (isFunction(declared) && !isComponent && text) {
        found.functions++;
        if (!beginsWithVerb(text)) found.unsaid.push(`${at(node)}  ${text.split('\n')[0]}`);
      }
    }
    ts.forEachChild(node, walk);
  };
  walk(file);
}

for (const room of ROOMS) for (const path of sources(join(root, room))) look(path);

const { comments, functions, exports } = found;
const shares = {
  asking: found.asking.length / comments,
  verbs: 1 - found.unsaid.length / functions,
  documented: 1 - found.bare.length / exports,
};
const isKept = {
  asking: shares.asking <= BOUNDS.asking,
  verbs: shares.verbs >= BOUNDS.verbs,
  documented: shares.documented >= BOUNDS.documented,
};
const percent = (share) => `${(share * 100).toFixed(1)} %`;
const tell = (name, what, most) =>
  console.log(
    `${percent(shares[name])} of ${what}, ${percent(BOUNDS[name])} ${most}; wanted ${percent(AIMS[name])}`,
  );
tell('asking', `${comments} comments begin with a question`, 'at the most');
tell('verbs', `${functions} exported functions say by a verb what they do`, 'at the least');
tell('documented', `${exports} exports have a comment`, 'at the least');
const list = process.argv.indexOf('--list');
for (const name of Object.keys(isKept)) {
  if (list < 0 && isKept[name]) continue;
  const lines = { asking: found.asking, verbs: found.unsaid, documented: found.bare }[name];
  const folder = process.argv[list + 1] ?? '';
  const shown = list < 0 ? lines.slice(0, 30) : lines.filter((line) => line.startsWith(folder));
  if (!isKept[name]) console.log(`\n${name}: out of bounds`);
  console.log(shown.join('\n'));
}
process.exit(Object.values(isKept).every(Boolean) ? 0 : 1);
