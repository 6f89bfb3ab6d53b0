import hooks from 'eslint-plugin-react-hooks';
import tseslint from 'typescript-eslint';

/** Dependencies point one way: web → contract → core, server → contract → core. */
const only = (allowed, message) => ({
  'no-restricted-imports': ['error', { patterns: [{ regex: `^@bistre/(?!(${allowed})(/|$))`, message }] }],
});
export default tseslint.config(
  { ignores: ['**/dist/**', '**/node_modules/**', 'docs/**', 'web/public/**', 'test-results/**', 'bench/.out/**'] },
  ...tseslint.configs.strict,
  {
    linterOptions: { reportUnusedDisableDirectives: 'error' },
    rules: {
      '@typescript-eslint/no-non-null-assertion': 'off',
      '@typescript-eslint/no-unused-vars': [
        'error',
        { argsIgnorePattern: '^_', varsIgnorePattern: '^_', ignoreRestSiblings: true },
      ],
      eqeqeq: ['error', 'smart'],
      'no-console': 'error',
      'prefer-const': 'error',
    },
  },
  {
    files: ['core/src/**/*.ts'],
    ignores: ['core/src/**/*.test.ts', 'core/src/test-*.ts'],
    rules: {
      'no-restricted-imports': [
        'error',
        {
          patterns: [
            {
              regex: '^(node:|@bistre/|react|express|kysely)',
              message: 'The core has no interface, no I/O and no framework.',
            },
          ],
        },
      ],
      'no-restricted-globals': ['error', 'process', 'window', 'document', 'fetch', 'localStorage', 'Buffer'],
    },
  },
  { files: ['contract/src/**/*.ts'], rules: only('core', 'The contract knows the core only.') },
  { files: ['server/src/**/*.ts'], rules: only('core|contract', 'The server knows the contract and the core.') },
  {
    files: ['web/src/**/*.{ts,tsx}'],
    plugins: { 'react-hooks': hooks },
    rules: {
      ...only('core|contract', 'The pages know the contract and the core.'),
      'react-hooks/rules-of-hooks': 'error',
      'react-hooks/exhaustive-deps': 'error',
    },
  },
  { files: ['scripts/**/*.mjs', 'bench/**/*', '*.mjs'], rules: { 'no-console': 'off', 'no-undef': 'off' } },
);
