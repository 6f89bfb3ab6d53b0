/** Ways of holding: each knows what ways share, none knows another. */
const WAYS = 'pockets|fence|pegs|locator|sheet|panel|long|marked|feed|photo|drive|cradle';

/** How files may need each other; types count like the rest, for to a reader they do. */
export default {
  forbidden: [
    { name: 'no file needs itself', severity: 'error', from: {}, to: { circular: true } },
    {
      name: 'a room is entered by its index',
      severity: 'error',
      from: { path: '^core/src/([^/]+)/', pathNot: '\\.test\\.ts$' },
      to: { path: '^core/src/([^/]+)/(?!index\\.ts$)', pathNot: ['^core/src/$1/', '^core/src/ways/'] },
    },
    {
      name: 'a way’s room too',
      severity: 'error',
      from: { path: '^core/src/(?!ways/)', pathNot: '\\.test\\.ts$' },
      to: { path: '^core/src/ways/(?:[^/]+/(?!index\\.ts$)|(?!index\\.ts$)[^/]+\\.ts$)' },
    },
    {
      name: 'a way knows no other way',
      severity: 'error',
      from: { path: `^(core|web)/src/ways/(${WAYS})/` },
      to: { path: `^$1/src/ways/(${WAYS})/`, pathNot: '^$1/src/ways/$2/' },
    },
    {
      name: 'pages ask for a way’s room, they do not enter it',
      severity: 'error',
      // Workers are asked where a test is.
      from: { path: '^web/src/(?!ways/|testing/)' },
      to: { path: '^web/src/ways/[^/]+/', pathNot: '^web/src/ways/flat/show\\.ts$' },
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
