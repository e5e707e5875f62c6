import next from 'eslint-config-next'
import regexp from 'eslint-plugin-regexp'
import tseslint from 'typescript-eslint'

/** Imports go one way; what a folder must not know is listed here. */
const mustNotKnow = (folder, ...others) => ({
  files: [`src/${folder}/**/*.{ts,tsx}`],
  ignores: ['**/*.test.ts'],
  rules: {
    'no-restricted-imports': [
      'error',
      {
        patterns: [
          { group: others.map((other) => `@/${other}/**`), message: `src/${folder} must not know these parts.` },
          ...(folder === 'core'
            ? [{ group: ['node:*', 'react', 'react-*', 'next', 'next/**', 'antd'], message: 'The core runs anywhere.' }]
            : []),
        ],
      },
    ],
  },
})

export default tseslint.config(
  { ignores: ['.next/**', 'dist/**', '.yarn-step/**', 'public/worklets/**', 'next-env.d.ts', 'demo-files/**'] },
  ...next,
  ...tseslint.configs.strict,
  {
    rules: {
      '@typescript-eslint/no-non-null-assertion': 'off',
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      '@next/next/no-img-element': 'off',
      // The virtual list is read outside memoised code, as its authors ask.
      'react-hooks/incompatible-library': 'off',
      'import/no-anonymous-default-export': 'off',
    },
  },
  {
    files: ['src/**/*.{ts,tsx}'],
    ignores: ['src/ui/parts/icons.tsx'],
    rules: {
      'no-restricted-syntax': [
        'error',
        {
          selector: 'ImportDeclaration[source.value=/^@ant-design.icons/]',
          message: 'Take icons from ui/parts/icons: there they are not read out.',
        },
      ],
    },
  },
  {
    // Patterns see what strangers bring: none may try the same characters in many ways.
    files: ['src/**/*.{ts,tsx}'],
    plugins: { regexp },
    rules: { 'regexp/no-super-linear-backtracking': 'error' },
  },
  // What is said is known to all, and knows nobody.
  mustNotKnow('messages', 'core', 'media', 'db', 'jobs', 'app', 'ui', 'workers', 'cli', 'demo', 'server'),
  mustNotKnow('core', 'media', 'db', 'jobs', 'app', 'ui', 'workers', 'cli', 'demo'),
  mustNotKnow('media', 'db', 'jobs', 'app', 'ui', 'workers', 'cli', 'demo'),
  mustNotKnow('db', 'media', 'jobs', 'app', 'ui', 'workers', 'cli', 'demo'),
  mustNotKnow('jobs', 'app', 'ui', 'workers', 'cli', 'demo'),
  mustNotKnow('ui', 'media', 'db', 'jobs', 'app', 'cli', 'demo'),
  mustNotKnow('workers', 'media', 'db', 'jobs', 'app', 'cli', 'demo'),
  mustNotKnow('server', 'db', 'app', 'ui', 'workers', 'cli', 'demo'),
  // Of the database only what clears it away: see cli/commands/gc.ts.
  mustNotKnow('cli', 'app', 'ui', 'workers'),
)
