/** Who may know whom. */
module.exports = {
  forbidden: [
    {
      name: 'core-knows-nothing',
      severity: 'error',
      from: { path: '^packages/core/src', pathNot: '\\.test\\.ts$' },
      to: { pathNot: '^packages/core/src' },
    },
    {
      name: 'contract-knows-core',
      severity: 'error',
      from: { path: '^packages/contract/src', pathNot: '\\.test\\.ts$' },
      to: { path: '^packages/(server|web|demo)/' },
    },
    {
      name: 'server-and-web-apart',
      severity: 'error',
      from: { path: '^packages/server/src' },
      to: { path: '^packages/(web|demo)/' },
    },
    {
      name: 'web-and-server-apart',
      severity: 'error',
      from: { path: '^packages/web/src' },
      to: { path: '^packages/(server|demo)/' },
    },
    {
      name: 'platform-knows-no-feature',
      severity: 'error',
      from: { path: '^packages/server/src/platform' },
      to: { path: '^packages/server/src/features' },
    },
    {
      name: 'feature-by-its-door',
      comment: 'A feature is used by its index.ts alone; what that does not name is its own.',
      severity: 'error',
      from: { path: '^packages/server/src/features/([^/]+)/' },
      to: {
        path: '^packages/server/src/features/([^/]+)/',
        pathNot: ['^packages/server/src/features/$1/', '/index\\.ts$'],
      },
    },
    {
      name: 'composition-by-the-doors',
      comment:
        'Outside the features only the list of routes names a file behind a door, and the index for the demo the services.',
      severity: 'error',
      from: { path: '^packages/server/src/[^/]+\\.ts$', pathNot: '/index\\.ts$' },
      to: { path: '^packages/server/src/features/', pathNot: '/(index|routes)\\.ts$' },
    },
    {
      name: 'verifier-trusts-only-core',
      severity: 'error',
      from: { path: '^tools/verify-' },
      to: { path: '^packages/(server|contract|web|demo)/' },
    },
    { name: 'no-circles', severity: 'error', from: {}, to: { circular: true } },
    {
      name: 'no-orphans',
      severity: 'error',
      from: {
        orphan: true,
        path: '^packages/[^/]+/src',
        pathNot: '(\\.d\\.ts|index\\.ts|main\\.tsx?|worker\\.ts|testing/settle\\.ts|\\.test\\.tsx?)$',
      },
      to: {},
    },
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    exclude: { path: '(dist|\\.local)/' },
    tsConfig: { fileName: 'tsconfig.base.json' },
    tsPreCompilationDeps: true,
    enhancedResolveOptions: {
      exportsFields: ['exports'],
      conditionNames: ['import', 'require', 'node', 'default'],
      extensions: ['.ts', '.tsx', '.js', '.mjs', '.cjs', '.json'],
    },
  },
};
