import js from '@eslint/js';
import angular from 'angular-eslint';
import tseslint from 'typescript-eslint';

/** The folders of the core in the order of the arrows: each may use those before it, never one after it. */
const CORE = [
  'model',
  'notation',
  'world',
  'machine',
  'solver',
  'run',
  'scout',
  'findings',
  'reach',
  'history',
  'tune',
  'charts',
  'code',
  'kits',
  'language',
];

/** The same within a folder: the parts of the machine, and of the findings. */
const WITHIN = {
  machine: ['definition', 'compile', 'reference', 'lowered', 'running', 'refactor'],
  findings: ['catalogue', 'sentences', 'proved', 'witnessed', 'searched', 'repairs', 'report'],
};

/** Functions that are not correctly rounded everywhere, so that a run with them would differ from machine to machine. */
const INEXACT = [
  ...[
    'acos',
    'acosh',
    'asin',
    'asinh',
    'atan',
    'atan2',
    'atanh',
    'cbrt',
    'cos',
    'cosh',
    'exp',
    'expm1',
    'hypot',
  ],
  ...['log', 'log10', 'log1p', 'log2', 'pow', 'random', 'sin', 'sinh', 'tan', 'tanh'],
].map((property) => ({
  object: 'Math',
  property,
  message: 'It is not the same to the last bit everywhere; see machine/trigonometry.ts.',
}));

/** Attributes of templates that nobody reads, beside those that the rule about texts knows itself. */
const NOT_READ = [
  'accept',
  'aria-controls',
  'aria-describedby',
  'aria-live',
  'ariaCurrentWhenActive',
  'cdkDragLockAxis',
  'd',
  'inputmode',
  'marker-end',
  'matButton',
  'matColumnDef',
  'orient',
  'preserveAspectRatio',
  'scope',
  'text-anchor',
  'transform',
  'vector-effect',
];

/** Texts of the web application that are not marked for translation, as far as a pattern can tell them from other strings. */
const UNMARKED = [
  'Literal[value=/[A-Za-z]{2,}[,:;]? [a-z]{2,}/]',
  'Property[key.name=/^(label|title|word|about|hint|help)$/] > Literal[value=/[A-Za-z]{2}/]',
  ':not(TaggedTemplateExpression, Property[key.name=/^(template|styles)$/]) > TemplateLiteral > TemplateElement[value.raw=/[a-z]{3,} [a-z$]|[a-z]{3,}[:,;]? $|^ ?[a-z]{3,} ?$/]',
].map((selector) => ({ selector, message: 'What a person reads is marked with $localize (docs: texts).' }));

/** The layers of the web application: each may use those before it, and of its own only itself. */
const LAYERS = ['data', 'shared/ui', 'shared/document', 'features', 'frame'];
const FEATURES = ['course', 'findings', 'model', 'run', 'shelf'];

/** A component reaches into no other, and draws when Angular draws. */
const REACHING = [
  {
    selector:
      'CallExpression[callee.object.name="document"][callee.property.name=/^(querySelector|getElement)/]',
    message: 'Ask the component for it, by viewChild.',
  },
  {
    selector: 'CallExpression[callee.property.name="detectChanges"]',
    message: 'Say it by signals; Angular draws when they change.',
  },
];

/** What a part of the project must not import, as patterns with the reason. */
const forbid = (files, ...rules) => ({
  files: [files],
  rules: {
    'no-restricted-imports': ['error', { patterns: rules.map(([regex, message]) => ({ regex, message })) }],
  },
});

const OUTSIDE_CORE = [
  '^node:|^@glenmark/|^glenmark-cli|^@angular/|^rxjs',
  'The core knows no framework, no Node and no other package of ours.',
];
const arrows = CORE.map((folder, i) =>
  forbid(
    `packages/core/src/${folder}/**/*.ts`,
    OUTSIDE_CORE,
    [`^\\.\\./(${CORE.slice(i + 1).join('|')})/`, `Arrows point one way: ${CORE.join(' ← ')}.`],
    [`^\\.\\./(${CORE.join('|')})/(?!index\\.js$)`, 'Another folder is used through its index.'],
  ),
);

/** Files of a part of a folder, with the arrows of the folder beside those of the core. */
const within = Object.entries(WITHIN).flatMap(([folder, parts]) =>
  parts.map((part, i) =>
    forbid(
      `packages/core/src/${folder}/${part}/**/*.ts`,
      OUTSIDE_CORE,
      [
        `^(\\.\\./)+(${CORE.slice(CORE.indexOf(folder) + 1).join('|')})/index\\.js$`,
        `Arrows point one way: ${CORE.join(' ← ')}.`,
      ],
      [`^(\\.\\./)+(${CORE.join('|')})/(?!index\\.js$)`, 'Another folder is used through its index.'],
      ...(i + 1 < parts.length
        ? [[`^(\\.\\./)+(${parts.slice(i + 1).join('|')})/`, `Arrows point one way: ${parts.join(' ← ')}.`]]
        : []),
    ),
  ),
);

const OUTSIDE_WEB = [
  '^node:|^@glenmark/(?!core/|contract$)|^glenmark-cli',
  'The web application uses core and contract.',
];
const layers = [
  forbid('packages/web/src/**/*.ts', OUTSIDE_WEB),
  ...LAYERS.slice(0, -2).map((layer, i) =>
    forbid(`packages/web/src/app/${layer}/**/*.ts`, OUTSIDE_WEB, [
      `/(${LAYERS.slice(i + 1).join('|')})/|^\\.\\./(${LAYERS.slice(i + 1)
        .map((l) => l.replace('shared/', ''))
        .join('|')})/`,
      `Arrows point one way: ${LAYERS.join(' ← ')}.`,
    ]),
  ),
  ...FEATURES.map((feature) =>
    forbid(
      `packages/web/src/app/features/${feature}/**/*.ts`,
      OUTSIDE_WEB,
      [`/frame/`, `Arrows point one way: ${LAYERS.join(' ← ')}.`],
      [
        `^(\\.\\./)+(${FEATURES.filter((f) => f !== feature).join('|')})/`,
        'What two features need is in shared: no feature uses another.',
      ],
    ),
  ),
];

export default tseslint.config(
  // The kernel is checked by its own compiler.
  {
    ignores: [
      '**/dist/**',
      '**/.angular/**',
      '**/node_modules/**',
      'test-results/**',
      'packages/core/kernel/**',
    ],
  },
  js.configs.recommended,
  ...tseslint.configs.strict,
  {
    files: ['**/*.ts'],
    rules: {
      '@typescript-eslint/no-non-null-assertion': 'off',
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      '@typescript-eslint/no-import-type-side-effects': 'error',
      '@typescript-eslint/consistent-type-imports': ['error', { fixStyle: 'inline-type-imports' }],
      '@typescript-eslint/no-extraneous-class': 'off',
    },
  },
  {
    files: ['packages/core/src/**/*.ts'],
    rules: {
      'no-restricted-globals': ['error', 'window', 'document', 'process', 'Buffer', 'performance'],
      'no-restricted-properties': ['error', ...INEXACT],
    },
  },
  {
    files: ['packages/*/src/**/*.ts'],
    // Called many times a tick, where an object for the parameters would be made for nothing.
    ignores: ['packages/core/src/machine/running/**', 'packages/core/src/world/**'],
    rules: { 'max-params': ['error', 5] },
  },
  {
    files: ['packages/core/src/**/*.ts'],
    // These run in every tick and every situation of a search.
    ignores: [
      ...['machine/running', 'world', 'scout'].map((folder) => `packages/core/src/${folder}/**`),
      'packages/core/src/findings/proved/skeleton/explore/*.ts',
      'packages/core/src/findings/proved/skeleton/clocks/*.ts',
    ],
    rules: { '@typescript-eslint/no-non-null-assertion': 'error' },
  },
  ...arrows,
  ...within,
  forbid('packages/contract/src/**/*.ts', [
    '^node:|^@glenmark/(?!core/)',
    'The contract uses the core alone.',
  ]),
  forbid('packages/server/src/**/*.ts', [
    '^@glenmark/(?!core/|contract$|threads$)|^glenmark-cli',
    'The server uses core, contract and threads.',
  ]),
  ...layers,
  forbid('packages/threads/src/**/*.ts', ['^@glenmark/(?!core/)', 'The threads use the core alone.']),
  forbid('packages/cli/src/**/*.ts', [
    '^@glenmark/(?!core/|contract$|threads$|server$)',
    'The command line uses core, contract, threads and server.',
  ]),
  {
    files: ['packages/web/src/**/*.ts'],
    extends: [...angular.configs.tsRecommended],
    rules: {
      '@angular-eslint/prefer-on-push-component-change-detection': 'error',
      '@angular-eslint/component-selector': ['error', { type: 'element', prefix: 'gm', style: 'kebab-case' }],
      '@angular-eslint/component-class-suffix': 'off',
      'max-lines': ['error', 250],
    },
    processor: angular.processInlineTemplates,
  },
  {
    files: ['packages/web/src/app/**/*.ts'],
    ignores: ['**/*.spec.ts', '**/*.testing.ts'],
    rules: {
      'no-restricted-syntax': ['error', ...UNMARKED, ...REACHING],
    },
  },
  {
    files: ['packages/web/src/app/**/*.html'],
    extends: [...angular.configs.templateRecommended, ...angular.configs.templateAccessibility],
    rules: {
      // Angular gives up such a text without a word: what is bound goes by the property, as in ariaLabel="Remove {{ name }}".
      'no-restricted-syntax': [
        'error',
        {
          selector:
            'BoundText :not(BindingPipe, Binary[operation=/=/]) > LiteralPrimitive[value=/[A-Za-z]{2}/]',
          message: 'A text in an expression is not marked: put it between tags, or in the component.',
        },
        {
          // To a Material part it is an input, which Angular does translate.
          selector: ':not([name=/^mat-/]) > BoundAttribute[name=/^aria-/][i18n]',
          message: 'Use the property, as in ariaLabel, for a bound text.',
        },
      ],
      '@angular-eslint/template/i18n': [
        'error',
        { checkId: false, ignoreAttributes: NOT_READ, boundTextAllowedPattern: '^(s|m|m/s|r)$' },
      ],
    },
  },
  {
    files: ['scripts/**/*.mjs', '*.js', 'packages/cli/bin/*.js'],
    languageOptions: {
      globals: {
        structuredClone: 'readonly',
        process: 'readonly',
        URL: 'readonly',
        console: 'readonly',
        setTimeout: 'readonly',
        setInterval: 'readonly',
        clearInterval: 'readonly',
        setImmediate: 'readonly',
        Buffer: 'readonly',
        AbortSignal: 'readonly',
        fetch: 'readonly',
        localStorage: 'readonly',
        performance: 'readonly',
        document: 'readonly',
        KeyboardEvent: 'readonly',
        Event: 'readonly',
        requestAnimationFrame: 'readonly',
      },
    },
  },
);
