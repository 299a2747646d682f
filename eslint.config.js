import js from '@eslint/js'
import hooks from 'eslint-plugin-react-hooks'
import globals from 'globals'
import ts from 'typescript-eslint'

const projects = ['core', 'server', 'cli', 'web', 'web/src/audio/worklet', 'web/src/offline']
  .map((folder) => `${folder}/tsconfig.json`)
  .concat('tsconfig.tests.json')

export default ts.config(
  { ignores: ['**/dist/', '**/*.generated.ts', 'core/kernel/', 'data/', 'data-demo/', '.tmp/', 'test-results/', 'server/drizzle/'] },
  js.configs.recommended,
  {
    files: ['**/*.{ts,tsx}'],
    extends: [ts.configs.strictTypeChecked],
    languageOptions: { parserOptions: { project: projects, tsconfigRootDir: import.meta.dirname } },
    rules: {
      '@typescript-eslint/restrict-template-expressions': ['error', { allowNumber: true, allowBoolean: true }],
      '@typescript-eslint/no-confusing-void-expression': 'off',
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      '@typescript-eslint/no-empty-function': 'off',
      // reading a typed array inside its bounds is not nullable, and a checked lookup may be
      '@typescript-eslint/no-unnecessary-condition': 'off',
      '@typescript-eslint/no-extraneous-class': 'off',
    },
  },
  {
    files: ['web/src/**/*.{ts,tsx}'],
    plugins: { 'react-hooks': hooks },
    rules: { 'react-hooks/rules-of-hooks': 'error', 'react-hooks/exhaustive-deps': 'warn' },
  },
  // scripts also carry functions that run in a page
  { files: ['**/*.{js,mjs,cjs}'], languageOptions: { globals: { ...globals.node, ...globals.browser } } },
)
