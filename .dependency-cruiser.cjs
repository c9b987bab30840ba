/** The arrows of the house (docs/architecture.md). */
const onlyFrom = (name, from, allowed) => ({
  name,
  severity: 'error',
  from: { path: from, pathNot: '\\.test\\.tsx?$' },
  to: { path: '^(src|demo)/', pathNot: [from, ...allowed] },
});

module.exports = {
  forbidden: [
    onlyFrom('core-stands-alone', '^src/core/', []),
    onlyFrom('contract-knows-core', '^src/contract/', ['^src/core/']),
    onlyFrom('engine-knows-core', '^src/engine/', ['^src/core/']),
    // ending tables are read where they are asked for
    onlyFrom('server-knows-core', '^src/server/', [
      '^src/(core|contract)/',
      '^src/engine/hosts/ending-(files|plan|results)\\.ts$',
    ]),
    onlyFrom('worker', '^src/worker/', ['^src/(core|contract|engine|server)/']),
    onlyFrom('ui', '^src/ui/', [
      '^src/(core|contract)/',
      '^src/engine/(contract\\.ts|hosts/browser(-mates)?\\.ts)$',
      '^src/server/.*',
    ]),
    onlyFrom('app', '^src/app/', ['^src/(core|contract|ui|server)/']),
    {
      name: 'rules-know-no-files',
      severity: 'error',
      from: { path: '^src/core/(game|chess|shogi)/', pathNot: '\\.test\\.ts$' },
      to: { path: '^src/core/notation/' },
    },
    {
      name: 'ui-takes-only-types-from-server',
      severity: 'error',
      from: { path: '^src/ui/' },
      to: { path: '^src/server/', dependencyTypesNot: ['type-only'] },
    },
    {
      name: 'core-is-pure',
      severity: 'error',
      from: { path: '^src/core/', pathNot: '\\.test\\.ts$' },
      to: {
        path: ['^node_modules/(next|react|drizzle-orm|pg)/'],
        dependencyTypesNot: ['type-only'],
      },
    },
    {
      name: 'core-has-no-node',
      severity: 'error',
      from: { path: '^src/core/', pathNot: '\\.test\\.ts$' },
      to: { dependencyTypes: ['core'] },
    },
    { name: 'no-circles', severity: 'error', from: { path: '^src/' }, to: { circular: true } },
  ],
  options: {
    tsConfig: { fileName: 'tsconfig.json' },
    tsPreCompilationDeps: 'specify',
    doNotFollow: { path: 'node_modules' },
    exclude: { path: ['^src/engine/(search|training|endings|mates)/', '\\.next'] },
    enhancedResolveOptions: {
      exportsFields: ['exports'],
      conditionNames: ['import', 'node', 'default'],
    },
  },
};
