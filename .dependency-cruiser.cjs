/** Who may import whom: docs/architecture.md. */
const shells = '^(server|web|cli|e2e)/'
const forbid = (name, from, to, comment) => ({ name, severity: 'error', comment, from: { path: from, pathNot: '\\.test\\.ts$' }, to })

module.exports = {
  forbidden: [
    { name: 'no-circular', severity: 'error', from: {}, to: { circular: true, viaOnly: { dependencyTypesNot: ['type-only'] } } },
    {
      name: 'no-folder-circles',
      severity: 'error',
      comment: 'A folder of the page stands above or below another, never both.',
      scope: 'folder',
      from: { path: '^web/src' },
      to: { circular: true },
    },
    forbid('core-knows-no-shell', '^core/', { path: shells }, 'The core is computed with, not the other way round.'),
    forbid(
      'core-knows-no-platform',
      '^core/src/',
      { dependencyTypes: ['core', 'npm', 'npm-dev', 'npm-peer', 'npm-optional', 'npm-unknown'], pathNot: '^core/' },
      'No Node API, no package: core runs in a page, a worker, a worklet and Node.',
    ),
    forbid('web-alone', '^web/', { path: '^(server|cli|e2e)/' }),
    forbid('server-alone', '^server/', { path: '^(web|cli|e2e)/' }),
    forbid('cli-alone', '^cli/', { path: '^(web|server|e2e)/' }),
    forbid('signal-is-the-ground', '^core/src/signal/', { path: '^core/src/(?!signal/)' }, 'signal knows nothing above it.'),
    forbid('measure-is-independent', '^core/src/measure/', { path: '^core/src/(?!measure/|signal/)' }),
    forbid(
      'preset-knows-descriptions',
      '^core/src/preset/',
      { path: '^core/src/(?!preset/|document/|catalogue/|cabinet/|stage/|guitar/index|recording/index|riffs/index|signal/index)' },
      'preset knows descriptions of catalogue, guitar and recording, not their processors.',
    ),
    forbid(
      'document-is-plain',
      '^core/src/document/',
      { path: '^core/src/(?!document/)' },
      'Descriptions know nothing of what they describe.',
    ),
    forbid('public-face-of-core', `${shells}`, { path: '^core/src/[^/]+/(?!index\\.ts$)' }, 'A folder of core is imported by its index.'),
    forbid(
      'views-stand-alone',
      '^web/src/views/([^/]+)/',
      { path: '^web/src/views/(?!$1/)' },
      'Nothing of a view is used by another view.',
    ),
    {
      name: 'inside-core-by-index',
      severity: 'error',
      from: { path: '^core/src/([^/]+)/', pathNot: '\\.test\\.ts$' },
      to: { path: '^core/src/(?!$1/)[^/]+/(?!index\\.ts$)' },
    },
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    exclude: { path: '(bytes\\.generated|\\.d\\.ts$|^core/kernel/)' },
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.base.json' },
    enhancedResolveOptions: { exportsFields: ['exports'], conditionNames: ['import', 'node', 'default'] },
  },
}
