/**
 * Where arrows may point: app → core, server → core; a feature never to another feature; nothing in a circle.
 */
/**
 * The rooms of the core, by what may use what: each knows those of the lines before its own, types as well.
 */
const CORE = [
  ['lib'],
  ['time'],
  ['words'],
  ['recurrence'],
  ['ical'],
  ['item'],
  ['gather', 'view'],
  ['todo'],
  ['notify'],
  ['plan', 'outline'],
  ['out'],
  ['api'],
];

/** The folders of the server, in the same way; whatever lies in `src` itself is for all of them. */
const SERVER = [
  ['db'],
  ['http'],
  ['work', 'mail'],
  ['people', 'files'],
  ['accounts'],
  ['calendars', 'briefs'],
  ['gather'],
  ['items'],
  ['plan'],
  ['crew', 'outline', 'table', 'notify', 'first-view'],
  ['notes', 'open-times', 'out', 'publish'],
  ['backup'],
  ['thread'],
];

/** A rule for each line of rooms: it knows nothing of the lines after it, nor of the rooms beside it. */
function inOrder(lines, base) {
  return lines.flatMap((rooms, i) =>
    rooms.map((room) => {
      const others = [...rooms.filter((other) => other !== room), ...lines.slice(i + 1).flat()];
      return {
        name: `${base}-${room}-in-order`,
        severity: 'error',
        from: { path: `^${base}/${room}/`, pathNot: '\\.test\\.ts$' },
        to: { path: `^${base}/(?:${others.join('|')})/` },
      };
    }),
  );
}

module.exports = {
  forbidden: [
    { name: 'no-circle', severity: 'error', from: {}, to: { circular: true } },
    ...inOrder(CORE, 'core/src'),
    ...inOrder(SERVER, 'server/src'),
    {
      name: 'core-is-pure',
      severity: 'error',
      from: { path: '^core/src' },
      to: { path: '^(server|app|stand-ins|demo|e2e|bench)/' },
    },
    {
      name: 'core-without-node',
      severity: 'error',
      from: { path: '^core/src', pathNot: '\\.test\\.ts$' },
      to: { dependencyTypes: ['core'] },
    },
    {
      name: 'server-knows-core',
      severity: 'error',
      from: { path: '^server/src', pathNot: '\\.test\\.ts$' },
      to: { path: '^(app|stand-ins|demo)/' },
    },
    {
      name: 'app-knows-core',
      severity: 'error',
      from: { path: '^app/src' },
      to: { path: '^(server|stand-ins|demo)/' },
    },
    {
      name: 'feature-to-feature',
      severity: 'error',
      from: { path: '^app/src/features/([^/]+)/' },
      to: { path: '^app/src/features/', pathNot: '^app/src/features/$1/' },
    },
    {
      name: 'bundles-from-routes',
      severity: 'error',
      from: { path: '^app/src', pathNot: '^app/src/(app|bundles)/' },
      to: { path: '^app/src/bundles/' },
    },
    {
      name: 'ui-knows-no-data',
      severity: 'error',
      from: { path: '^app/src/ui' },
      to: { path: '^app/src/(features|data|app)/' },
    },
    {
      name: 'data-knows-no-screen',
      severity: 'error',
      from: { path: '^app/src/data' },
      to: { path: '^app/src/(features|ui|app)/' },
    },
    {
      name: 'stand-ins-stand-outside',
      severity: 'error',
      from: { path: '^stand-ins/src' },
      to: { path: '^(server|app|demo|core/src/(?!ical))' },
    },
    {
      name: 'sql-in-stores',
      severity: 'error',
      from: { path: '^server/src/.*/(routes|service)\\.ts$' },
      to: { path: 'drizzle-orm|better-sqlite3' },
    },
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    exclude: { path: '(^|/)(node_modules|dist)/' },
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.boundaries.json' },
    enhancedResolveOptions: {
      exportsFields: ['exports'],
      conditionNames: ['import', 'default'],
      extensions: ['.ts', '.tsx', '.js', '.mjs'],
    },
  },
};
