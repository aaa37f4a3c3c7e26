import reactHooks from 'eslint-plugin-react-hooks';
import tseslint from 'typescript-eslint';

/** The folders of core in the order of the work: each may use only those before it, through their index. */
const order = [
  'quantity',
  'statistics',
  'sensing',
  'threshold',
  'colour',
  'motion',
  'workings',
  'course',
  'script',
  'editing',
  'phrasebook',
  'sim',
  'review',
  'notation',
  'expect',
  'tuning',
  'lesson',
  'classroom',
  'hour',
  'year',
  'formats',
];

const coreBoundaries = order.map((folder, i) => ({
  files: [`core/src/${folder}/**/*.ts`],
  rules: {
    'no-restricted-imports': [
      'error',
      {
        patterns: [
          {
            group: ['node:*', 'react', 'react-dom', 'express', '@vigilum/*'],
            message: 'Core knows no platform and no package that uses it.',
          },
          {
            regex: '^(\\.\\./)+(?!generated)[^/.]+/(?!index\\.ts$)',
            message: 'Enter a folder by its index.ts.',
          },
          ...(i + 1 < order.length
            ? [
                {
                  regex: `^(\\.\\./)+(${order.slice(i + 1).join('|')})/`,
                  message: `Arrows run backwards: ${folder} comes before this folder.`,
                },
              ]
            : []),
        ],
      },
    ],
  },
}));

/** The folders of web, shared ones first: each may use only those before it. */
const webOrder = [
  'ui',
  'workers',
  'data',
  'saving',
  'setup',
  'hours',
  'live',
  'classes',
  'access',
  'script',
  'run',
  'tuning',
  'workings',
  'reading',
  'expect',
  'workspace',
  'phrasebook',
  'stages',
  'courses',
  'kits',
  'robots',
  'builder',
  'lessons',
  'class',
  'year',
  'plan',
  'today',
  'start',
  'firstDay',
  'app',
];
const noServer = {
  group: ['node:*', '@vigilum/server*', '**/server/**'],
  message: 'Pages talk to the server over HTTP only.',
};
const webBoundaries = webOrder.slice(0, -1).map((folder, i) => ({
  files: [`web/src/${folder}/**/*.{ts,tsx}`],
  rules: {
    'no-restricted-imports': [
      'error',
      {
        patterns: [
          noServer,
          {
            regex: `^(\\.\\./)+(${webOrder.slice(i + 1).join('|')})/`,
            message: `Arrows run backwards: ${folder} comes before this folder.`,
          },
        ],
      },
    ],
  },
}));

export default tseslint.config(
  {
    ignores: [
      '**/node_modules/**',
      '**/dist/**',
      '**/.types/**',
      '**/generated/**',
      '.cache/**',
      'data/**',
      'test-results/**',
    ],
  },
  ...tseslint.configs.recommendedTypeChecked,
  {
    languageOptions: { parserOptions: { projectService: true, tsconfigRootDir: import.meta.dirname } },
    rules: {
      '@typescript-eslint/no-explicit-any': 'error',
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      '@typescript-eslint/consistent-type-imports': 'error',
      'no-eval': 'error',
      'no-implied-eval': 'error',
      'no-new-func': 'error',
      eqeqeq: 'error',
    },
  },
  {
    files: ['core/src/**/*.ts'],
    ignores: ['**/*.test.ts'],
    rules: {
      'no-restricted-globals': [
        'error',
        ...[
          'window',
          'document',
          'navigator',
          'process',
          'Buffer',
          'setTimeout',
          'setInterval',
          'fetch',
          'Date',
          'performance',
          'localStorage',
        ].map((name) => ({
          name,
          message: 'Core has no platform and no clock: pass it in.',
        })),
      ],
      'no-restricted-properties': [
        'error',
        { object: 'Math', property: 'random', message: 'Pass a seeded Noise in.' },
        ...['sin', 'cos', 'tan', 'asin', 'acos', 'atan', 'atan2', 'exp', 'log', 'pow', 'cbrt'].map(
          (property) => ({
            object: 'Math',
            property,
            message: 'Engines differ in its last bit: take it from quantity (sameMath).',
          }),
        ),
      ],
    },
  },
  {
    files: ['**/*.{js,mjs,cjs}', 'web/vite.config.ts'],
    ...tseslint.configs.disableTypeChecked,
    languageOptions: { parserOptions: { projectService: false, project: null } },
  },
  {
    // A reply or a stored row is looked at as it comes; what it must be is what the test says.
    files: ['**/*.test.{ts,tsx}', '**/test/**', 'e2e/**'],
    rules: {
      '@typescript-eslint/no-unsafe-assignment': 'off',
      '@typescript-eslint/no-unsafe-member-access': 'off',
      '@typescript-eslint/no-unsafe-argument': 'off',
      '@typescript-eslint/no-unsafe-call': 'off',
      '@typescript-eslint/require-await': 'off',
    },
  },
  ...coreBoundaries,
  {
    files: ['web/src/**/*.{ts,tsx}'],
    plugins: { 'react-hooks': reactHooks },
    rules: {
      'react-hooks/rules-of-hooks': 'error',
      'react-hooks/exhaustive-deps': 'error',
      'no-restricted-imports': ['error', { patterns: [noServer] }],
    },
  },
  ...webBoundaries,
  {
    // Pages use the controls of ui, so that each is styled in one place.
    files: ['web/src/**/*.tsx'],
    ignores: ['web/src/ui/**'],
    rules: {
      'no-restricted-syntax': [
        'error',
        {
          selector: "JSXAttribute[name.name='className'] Literal[value=/(^| )btn( |$)/]",
          message: 'Take Button, IconButton or LinkButton from ui.',
        },
        {
          selector: "JSXAttribute[name.name='className'] TemplateElement[value.raw=/(^| )btn( |$)/]",
          message: 'Take Button, IconButton or LinkButton from ui.',
        },
      ],
    },
  },
  {
    files: ['server/src/**/*.ts'],
    rules: {
      'no-restricted-imports': [
        'error',
        {
          patterns: [
            { group: ['react*', '@vigilum/web*', '**/web/**'], message: 'The server knows no page.' },
          ],
        },
      ],
    },
  },
);
