import boundaries from 'eslint-plugin-boundaries';
import reactHooks from 'eslint-plugin-react-hooks';
import tseslint from 'typescript-eslint';

/** Who may import whom; docs/architecture.md says why. */
const layers = {
  core: [],
  preview: ['core'],
  server: ['core'],
  ui: ['core', 'preview'],
  app: ['core', 'ui', 'server'],
  cli: ['core', 'server'],
  device: ['core', 'server'],
};

export default tseslint.config(
  {
    ignores: ['.next/', 'dist/', 'node_modules/', 'var/', 'data/', 'next-env.d.ts', 'demo/.truth/'],
  },
  ...tseslint.configs.recommended,
  {
    rules: {
      '@typescript-eslint/no-unused-vars': [
        'error',
        { argsIgnorePattern: '^_', varsIgnorePattern: '^_' },
      ],
      eqeqeq: 'error',
    },
  },
  {
    files: ['src/**/*.{ts,tsx}'],
    plugins: { boundaries },
    settings: {
      'boundaries/elements': Object.keys(layers).map((type) => ({ type, pattern: `src/${type}` })),
      'import/resolver': { typescript: { alwaysTryTypes: true } },
    },
    rules: {
      'boundaries/dependencies': [
        'error',
        {
          default: 'disallow',
          policies: Object.entries(layers).map(([from, allow]) => ({
            from: { element: { type: from } },
            allow: [from, ...allow].map((type) => ({ to: { element: { type } } })),
          })),
        },
      ],
    },
  },
  {
    // The core knows arrays, Zod and four small packages of pure functions; neither Node, nor a page, nor React.
    files: ['src/core/**/*.ts'],
    ignores: ['**/*.test.ts', 'src/core/testing/**'],
    rules: {
      'no-restricted-imports': [
        'error',
        {
          patterns: [
            {
              regex:
                '^(?!\\.{1,2}/|\\.$|\\.\\.$|zod$|lru-cache$|fast-json-patch$|@noble/hashes/|@sindresorhus/slugify$)',
              message:
                'The core imports itself, Zod, lru-cache, fast-json-patch, @noble/hashes and slugify alone.',
            },
          ],
        },
      ],
      'no-restricted-globals': [
        'error',
        'document',
        'window',
        'process',
        'Buffer',
        'fetch',
        'navigator',
      ],
    },
  },
  {
    files: ['src/ui/**/*.{ts,tsx}', 'src/app/**/*.tsx'],
    plugins: { 'react-hooks': reactHooks },
    rules: { 'react-hooks/rules-of-hooks': 'error', 'react-hooks/exhaustive-deps': 'error' },
  },
);
