import js from '@eslint/js'
import prettier from 'eslint-config-prettier'
import hooks from 'eslint-plugin-react-hooks'
import refresh from 'eslint-plugin-react-refresh'
import globals from 'globals'
import tseslint from 'typescript-eslint'

export default tseslint.config(
  { ignores: ['dist', 'src/api/generated', 'test-results'] },
  {
    files: ['eslint.config.js'],
    extends: [js.configs.recommended],
    languageOptions: { globals: globals.node },
  },
  {
    files: ['public/*.js'],
    extends: [js.configs.recommended],
    languageOptions: { globals: globals.serviceworker },
  },
  {
    files: ['**/*.{ts,tsx}'],
    extends: [
      js.configs.recommended,
      ...tseslint.configs.strictTypeChecked,
      hooks.configs.flat['recommended-latest'],
      refresh.configs.vite,
      prettier,
    ],
    languageOptions: { globals: globals.browser, parserOptions: { projectService: true } },
    rules: {
      // A number in a sentence is what this application is made of.
      '@typescript-eslint/restrict-template-expressions': ['error', { allowNumber: true }],
      '@typescript-eslint/switch-exhaustiveness-check': 'error',
    },
  },
  {
    // A place uses another place, and the rest of the application, through its index alone.
    files: ['src/places/**/*.{ts,tsx}', 'src/ui/**/*.{ts,tsx}', 'src/api/**/*.ts'],
    rules: { 'no-restricted-imports': ['error', { patterns: ['@/app', '@/app/*', '@/places/*/*'] }] },
  },
)
