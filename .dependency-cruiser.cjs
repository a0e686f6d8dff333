/** The arrows between the rooms: app → ui, server; ui → core, and the types of what use-cases give; workers → core, print, and what reads of the server; print → core; server → db, core;
 * core → nothing.
 * The schema names core types for its JSON columns, so db may reach core; docs/decisions/0001 says why. */
const rooms = {
  core: [],
  db: ['core'],
  server: ['core', 'db'],
  print: ['core'],
  workers: ['core', 'print'],
  ui: ['core'],
  app: ['ui', 'server', 'core'],
};
const every = Object.keys(rooms);

/** The stages of the core, each of which may reach those before it: they stand in no circle. */
const stages = [
  'base',
  'question',
  'bank',
  'release',
  'sitting',
  'attempt',
  'gradebook',
  'exam',
  'marking',
  'people',
  'round',
  'answerSheet',
  'analysis',
  'print',
];

/** The stages of the server in the same way; `records` holds what several of them read of the tables. */
const serverStages = [
  'house',
  'outside',
  'people',
  'records',
  'bank',
  'bringIn',
  'exam',
  'sitting',
  'attempt',
  'marking',
  'print',
  'release',
  'room',
  'round',
  'answerSheet',
  'gradebook',
  'term',
  'desk',
];

module.exports = {
  forbidden: [
    {
      name: 'ui-takes-only-types-from-server',
      comment:
        'A component names what a use-case gives; docs/decisions/0015 says why. Nothing of it is left at run time.',
      severity: 'error',
      from: { path: '^src/ui/', pathNot: '\\.test\\.tsx?$' },
      to: { path: '^src/server/', dependencyTypesNot: ['type-only'] },
    },
    ...every.map((room) => ({
      name: `${room}-reaches-only-${rooms[room].join('-and-') || 'itself'}`,
      severity: 'error',
      from: { path: `^src/${room}/`, pathNot: '\\.test\\.tsx?$' },
      to: {
        path: `^src/(${every
          .filter((other) => other !== room && !rooms[room].includes(other))
          .filter((other) => other !== 'server' || (room !== 'ui' && room !== 'workers'))
          .join('|')})/`,
      },
    })),
    {
      name: 'workers-reach-only-what-reads-of-the-server',
      severity: 'error',
      from: { path: '^src/workers/' },
      to: { path: '^src/server/', pathNot: '^src/server/outside/' },
    },
    {
      name: 'readings-know-no-server',
      comment: 'What is read in a thread takes bytes and answers with plain values.',
      severity: 'error',
      from: { path: '^src/server/outside/', pathNot: '(\\.test\\.ts|readOutside\\.ts)$' },
      to: { path: '^src/(db|app|ui|print)/|^src/server/(?!outside/)' },
    },
    {
      name: 'one-room-reads-what-comes-from-outside',
      comment:
        'Every importer goes through readOutside: in a thread, with limits on time and memory. Formulas for print come from the house’s own typesetting.',
      severity: 'error',
      from: { path: '^src/', pathNot: '^src/server/outside/|^src/print/formula\\.ts$|\\.test\\.ts$' },
      to: { path: 'node_modules/(saxes|file-type)/|^src/server/outside/(unpack|readXml|readDocx|readXlsx|readSheet)' },
    },
    {
      name: 'links-ask-for-nothing-ahead',
      comment: 'Links of the app are the kit’s; docs/decisions/0028 says why.',
      severity: 'error',
      from: { path: '^src/', pathNot: '^src/ui/kit/(Link|OnItsWay)\\.tsx$' },
      to: { path: 'node_modules/next/link' },
    },
    ...stages.slice(0, -1).map((stage, i) => ({
      name: `core-${stage}-reaches-no-later-stage`,
      comment: 'Stages of the core stand in an order: no circle of folders.',
      severity: 'error',
      from: { path: `^src/core/${stage}/`, pathNot: '\\.test\\.ts$' },
      to: { path: `^src/core/(${stages.slice(i + 1).join('|')})/` },
    })),
    ...serverStages.slice(0, -1).map((stage, i) => ({
      name: `server-${stage}-reaches-no-later-stage`,
      comment: 'A later stage registers with an earlier one what that one asks of it, as with undoing and handing in.',
      severity: 'error',
      from: { path: `^src/server/${stage}/`, pathNot: '\\.test\\.ts$' },
      to: { path: `^src/server/(${serverStages.slice(i + 1).join('|')})/` },
    })),
    {
      name: 'core-is-pure',
      comment: 'The core holds computation only: no framework, no database, no file, no network.',
      severity: 'error',
      from: { path: '^src/core/', pathNot: '(\\.test\\.ts|/testing/[^/]+)$' },
      to: {
        dependencyTypes: ['core', 'npm', 'npm-dev', 'npm-no-pkg', 'unknown'],
        pathNot: [
          'node_modules/(pure-rand|@noble/ciphers|@noble/hashes|zod|ipaddr.js|date-fns|@date-fns/tz|papaparse|@types/papaparse|mathjs|katex|chrono-node|jsqr)(/|$)',
        ],
      },
    },
    {
      name: 'server-knows-no-next',
      severity: 'error',
      from: { path: '^src/server/' },
      to: { path: 'node_modules/(next|react)(/|$)' },
    },
    { name: 'no-circles', severity: 'error', from: {}, to: { circular: true } },
    {
      name: 'nothing-orphaned',
      severity: 'error',
      from: { orphan: true, pathNot: ['\\.d\\.ts$', '^src/app/', '^e2e/', '^scripts/', '\\.test\\.tsx?$'] },
      to: {},
    },
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    tsConfig: { fileName: 'tsconfig.json' },
    tsPreCompilationDeps: true,
    enhancedResolveOptions: {
      exportsFields: ['exports'],
      conditionNames: ['import', 'require', 'node', 'default', 'types'],
    },
  },
};
