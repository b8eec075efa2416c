import expo from 'eslint-config-expo/flat.js';
import redos from 'eslint-plugin-redos';
import regexp from 'eslint-plugin-regexp';
import * as tseslint from 'typescript-eslint';

// What types know of promises is asked of oxlint, which takes a tenth of the time: see `.oxlintrc.json`.

/** The core is pure: no React, no Node, no network, no storage, no clock, no chance. */
const impure = [
  'fetch',
  'window',
  'document',
  'localStorage',
  'process',
  'Buffer',
  'setTimeout',
  'setInterval',
  'require',
  'navigator',
  'crypto',
  'performance',
].map((name) => ({
  name,
  message: 'The core is pure; hand this in.',
}));
const only = (files, patterns, paths = []) => ({
  files,
  ignores: ['**/*.test.ts', '**/*.test.tsx'],
  rules: { 'no-restricted-imports': ['error', { patterns, paths }] },
});
const deny = (group, message) => ({ group, message });

/** What the app draws with and asks of React Native. */
const ROUTER = {
  name: 'expo-router',
  message: 'Import it from @/router, which names the parts that are used.',
};

const NATIVE = {
  name: 'react-native',
  allowImportNames: [
    'ActivityIndicator',
    'Pressable',
    'ScrollView',
    'Text',
    'View',
    'Modal',
    'Dimensions',
    'Linking',
    'StyleSheet',
    'useWindowDimensions',
    'PressableProps',
    'TextProps',
    'ViewProps',
  ],
  message: 'Classes are not understood by it until it is named in app/shims/styled.js.',
};

export default tseslint.config(
  {
    ignores: [
      '**/node_modules/**',
      '**/dist/**',
      '**/.expo/**',
      'server/migrations/**',
      '.demo/**',
      'app/.left-out/**',
      'data/**',
      'test-results/**',
      'playwright-report/**',
      '**/*.d.ts',
    ],
  },
  // Rules about React compile what they look at: the app's own components, and nothing else.
  ...expo.map((c) =>
    c.plugins?.react ? { ...c, files: ['app/src/**'], ignores: ['**/*.test.{ts,tsx}'] } : c,
  ),
  ...tseslint.configs.recommended.map((c) => ({ ...c, files: ['**/*.ts', '**/*.tsx'] })),
  {
    files: ['**/*.ts', '**/*.tsx'],
    rules: {
      '@typescript-eslint/no-explicit-any': 'error',
      // A schema and the type it gives share a name on purpose; and TypeScript finds modules itself.
      '@typescript-eslint/no-redeclare': 'off',
      'import/no-unresolved': 'off',
      // Names that a module does not give are errors of type.
      'import/namespace': 'off',
      'import/named': 'off',
      'import/default': 'off',
      'import/export': 'off',
      'import/no-named-as-default': 'off',
      'import/no-named-as-default-member': 'off',
      '@typescript-eslint/consistent-type-imports': 'error',
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      '@typescript-eslint/no-unused-expressions': 'off',
      eqeqeq: ['error', 'smart'],
      'no-console': ['error', { allow: ['error', 'warn'] }],
    },
  },
  {
    files: ['core/src/**/*.ts'],
    ignores: ['**/*.test.ts'],
    rules: {
      'no-restricted-globals': ['error', ...impure],
      'no-restricted-properties': [
        'error',
        { object: 'Date', property: 'now', message: 'The core has no clock; hand the time in.' },
        { object: 'Math', property: 'random', message: 'The core has no chance; hand it in.' },
      ],
    },
  },
  {
    // Texts come from feeds, files and people: no pattern may take more than linear time on any of them. One
    // plugin looks at how a pattern is made, the other tries to attack it.
    files: ['{core,server,app,stand-ins,demo}/src/**/*.{ts,tsx}'],
    ignores: ['**/*.test.ts', '**/*.test.tsx'],
    plugins: { regexp, redos },
    rules: {
      'regexp/no-super-linear-backtracking': ['error', { report: 'potential' }],
      'regexp/no-super-linear-move': ['error', { report: 'potential' }],
      // The search takes seconds a pattern, and more on a busy machine: its verdicts are kept in the repository by
      // the pattern's text, so that only new patterns are searched.
      'redos/no-vulnerable': [
        'error',
        {
          ignoreErrors: false,
          timeout: 60_000,
          cache: { location: `${import.meta.dirname}/scripts/patterns.json`, strategy: 'aggressive' },
        },
      ],
    },
  },
  only(
    ['core/src/**/*.ts'],
    [
      deny(
        ['@zephyrfield/*', 'react*', 'node:*', 'express', 'drizzle-orm*', 'better-sqlite3', 'expo*'],
        'The core imports nothing of the rest, no Node and no React.',
      ),
    ],
  ),
  only(
    ['server/src/**/*.ts'],
    [
      deny(
        ['@zephyrfield/app*', '@zephyrfield/demo*', '@zephyrfield/stand-ins*', 'react*', 'expo*'],
        'The server knows the core only.',
      ),
    ],
  ),
  only(
    ['app/src/**/*.{ts,tsx}'],
    [
      deny(
        ['@zephyrfield/server*', '@zephyrfield/demo*', '@zephyrfield/stand-ins*', 'node:*'],
        'The app knows the core only.',
      ),
    ],
    [NATIVE, ROUTER],
  ),
  only(
    ['app/src/ui/**/*.{ts,tsx}'],
    [
      deny(
        ['@/features/*', '@/data/*', '@zephyrfield/server*', '@tanstack/*', 'zustand*', 'expo-router'],
        'The design system knows no feature and no data.',
      ),
    ],
    [NATIVE, ROUTER],
  ),
  only(
    ['app/src/data/**/*.{ts,tsx}'],
    [deny(['@/features/*', '@/ui/*', '@zephyrfield/server*'], 'Data knows no screen.')],
    [NATIVE, ROUTER],
  ),
  only(
    ['stand-ins/src/**/*.ts'],
    [
      deny(
        [
          '@zephyrfield/server*',
          '@zephyrfield/app*',
          '@zephyrfield/demo*',
          '@zephyrfield/core',
          '@zephyrfield/core/!(ical)/**',
        ],
        'Stand-ins are outside services; they may share the iCalendar part at most.',
      ),
    ],
  ),
  {
    // What waits for a time fails on a busy machine, and keeps everybody waiting on a quick one.
    files: ['**/test/**/*.{ts,tsx}', '**/*.test.{ts,tsx}', 'e2e/**/*.ts'],
    rules: {
      'no-restricted-syntax': [
        'error',
        {
          selector:
            "NewExpression[callee.name='Promise'] CallExpression[callee.name='setTimeout'][arguments.length=2]",
          message: 'Wait for a condition (eventually, waitFor, expect.poll), never for a time.',
        },
        {
          selector: "CallExpression[callee.property.name='waitForTimeout']",
          message: 'Wait for a condition (expect(…).toBeVisible, expect.poll), never for a time.',
        },
      ],
    },
  },
  {
    files: ['app/src/router.ts', 'app/src/server-render/router.tsx'],
    rules: { 'no-restricted-imports': 'off' },
  },
  { files: ['server/src/main.ts', 'demo/src/serve.ts'], rules: { 'no-console': 'off' } },
  {
    files: [
      'scripts/**',
      'e2e/**',
      'bench/**',
      '**/*.config.*',
      'app/{left-out,hand-on}.js',
      '.dependency-cruiser.cjs',
    ],
    languageOptions: { globals: { __dirname: 'readonly' } },
    rules: {
      'no-console': 'off',
      '@typescript-eslint/no-require-imports': 'off',
      'react-hooks/rules-of-hooks': 'off',
    },
  },
);
