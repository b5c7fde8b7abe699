/**
 * Imports go one way. Rooms: web and server → contract → core. Within and across rooms a stage may use
 * itself, the stages before it, and base. Files at a room's root (main, app) tie its stages together.
 */
const STAGES = ['register', 'plan', 'capture', 'correct', 'compare', 'judge', 'publish'];
const MAY_USE = {
  core: ['core'],
  contract: ['core', 'contract'],
  server: ['core', 'contract', 'server'],
  web: ['core', 'contract', 'web'],
  bench: ['core', 'contract', 'bench'],
  cli: ['core', 'contract', 'bench', 'cli'],
  demo: ['core', 'contract', 'bench', 'server', 'demo'],
  e2e: ['core', 'contract', 'bench', 'demo', 'e2e'],
};
const ROOMS = Object.keys(MAY_USE);

module.exports = {
  forbidden: [
    {
      name: 'no-circles',
      severity: 'error',
      from: {},
      to: { circular: true, viaOnly: { dependencyTypesNot: ['type-only'] } },
    },
    ...ROOMS.map((room) => ({
      name: `${room}-uses-${MAY_USE[room].join('-')}`,
      severity: 'error',
      from: { path: `^${room}/`, pathNot: '__tests__' },
      to: { path: `^(${ROOMS.filter((other) => !MAY_USE[room].includes(other)).join('|') || 'nothing'})/` },
    })),
    ...STAGES.map((stage, i) => ({
      name: `${stage}-looks-upstream-only`,
      severity: 'error',
      from: { path: `^(core|contract|server|web|bench|cli)/${stage}/`, pathNot: '\\.test\\.tsx?$' },
      to: { path: `^(core|contract|server|web|bench|cli)/(${STAGES.slice(i + 1).join('|') || 'nothing'})/` },
    })),
    {
      name: 'base-uses-base',
      severity: 'error',
      from: { path: '^(core|contract|server|bench|cli)/base/', pathNot: '\\.test\\.ts$' },
      to: { path: `^(core|contract|server|bench|cli)/(${STAGES.join('|')})/` },
    },
    {
      name: 'core-is-pure',
      severity: 'error',
      from: { path: '^core/', pathNot: '\\.test\\.ts$' },
      to: { dependencyTypes: ['core'] },
    },
    {
      name: 'core-needs-no-framework',
      severity: 'error',
      from: { path: '^core/', pathNot: '\\.test\\.ts$' },
      to: { path: 'node_modules/(react|express|drizzle-orm|pg|zod)' },
    },
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    tsConfig: { fileName: 'tsconfig.json' },
    tsPreCompilationDeps: true,
    enhancedResolveOptions: { extensions: ['.ts', '.tsx', '.js'] },
  },
};
