import js from '@eslint/js';
import prettier from 'eslint-config-prettier';
import imports from 'eslint-plugin-import-x';
import hooks from 'eslint-plugin-react-hooks';
import tseslint from 'typescript-eslint';

/** Forbids imports that would turn the packages' one direction round. */
const forbid = (files, group, message) => ({
  files,
  rules: { 'no-restricted-imports': ['error', { patterns: [{ group, message }] }] },
});

const OUTSIDE = [
  'node:*',
  'react',
  'react-dom',
  'antd',
  'express',
  'sequelize',
  '@tinfold/server/*',
  '@tinfold/host/*',
  'tinfold-cli/*',
];
const folders = (...names) => names.map((n) => `**/${n}/**`);
const inCore = (folder, ...above) =>
  forbid(
    [`core/src/${folder}/**`],
    [...OUTSIDE, ...folders(...above)],
    `core is pure, and ${folder} stands below ${above.join(', ') || 'nothing'}.`,
  );

export default tseslint.config(
  { ignores: ['**/dist/', 'node_modules/', '.data/', '**/*.d.ts'] },
  js.configs.recommended,
  {
    files: ['**/*.ts', '**/*.tsx'],
    extends: [...tseslint.configs.strictTypeChecked],
    languageOptions: { parserOptions: { projectService: true, tsconfigRootDir: import.meta.dirname } },
    rules: {
      '@typescript-eslint/restrict-template-expressions': ['error', { allowNumber: true }],
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      '@typescript-eslint/no-confusing-void-expression': ['error', { ignoreArrowShorthand: true }],
    },
  },
  { files: ['web/src/**'], ...hooks.configs.flat.recommended },
  {
    // Files that need each other cannot be read one after the other. Types alone are no need.
    files: ['{core,host,cli,server,web}/src/**'],
    plugins: { 'import-x': imports },
    settings: {
      'import-x/parsers': { '@typescript-eslint/parser': ['.ts', '.tsx'] },
      'import-x/resolver': {
        node: { extensions: ['.ts', '.tsx'], extensionAlias: { '.js': ['.ts', '.tsx', '.js'] } },
      },
    },
    rules: { 'import-x/no-cycle': ['error', { ignoreExternal: true }] },
  },
  {
    files: ['scripts/**/*.mjs', 'cli/bin/*.js', '*.config.js'],
    languageOptions: { globals: { process: 'readonly', console: 'readonly', URL: 'readonly' } },
  },
  inCore('model', 'drawing', 'text', 'layout', 'edit', 'infer', 'proof', 'handoff'),
  inCore('text', 'drawing', 'layout', 'infer', 'proof', 'handoff'),
  inCore('drawing', 'layout', 'infer', 'proof', 'handoff'),
  inCore('layout', 'drawing', 'edit', 'infer', 'proof', 'handoff'),
  inCore('edit', 'drawing', 'infer', 'proof', 'handoff'),
  inCore('tokens', 'drawing', 'layout', 'edit', 'infer', 'proof', 'handoff'),
  inCore('proof', 'infer'),
  inCore('infer', 'handoff'),
  inCore('handoff', 'infer', 'proof'),
  forbid(
    ['host/**'],
    ['react', 'antd', 'express', 'sequelize', '@tinfold/server/*', 'tinfold-cli/*'],
    'What command and server share stands on core alone.',
  ),
  forbid(
    ['cli/**'],
    ['react', 'antd', 'express', 'sequelize', '@tinfold/server/*'],
    'The command stands on core and host alone.',
  ),
  forbid(
    ['server/**'],
    ['react', 'antd', '**/web/**', 'tinfold-cli/*'],
    'The server knows nothing of the web client and of the command.',
  ),
  forbid(
    ['web/**'],
    ['node:*', 'express', 'sequelize', '@tinfold/server/*', '@tinfold/host/*', 'tinfold-cli/*'],
    'The web client runs in a browser.',
  ),
  prettier,
);
