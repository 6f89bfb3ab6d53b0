/** No file may need itself, not by way of others and not by types alone: to a reader that is a circle too. */
export default {
  forbidden: [
    { name: 'circle', severity: 'error', from: {}, to: { circular: true } },
    {
      name: 'a room is entered by its index',
      severity: 'error',
      from: { path: '^core/src/([^/]+)/', pathNot: '\\.test\\.ts$' },
      to: { path: '^core/src/([^/]+)/(?!index\\.ts$)', pathNot: ['^core/src/$1/'] },
    },
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    exclude: { path: '\\.d\\.ts$' },
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.json' },
    enhancedResolveOptions: { extensions: ['.ts', '.tsx', '.mjs', '.js'] },
  },
};
