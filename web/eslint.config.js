import js from '@eslint/js'
import jsxA11y from 'eslint-plugin-jsx-a11y'
import reactHooks from 'eslint-plugin-react-hooks'
import tseslint from 'typescript-eslint'

// The rooms of the page from the ground up: each knows those before it in the list, and none after.
const GROUND = [
  'api',
  'format',
  'offline',
  'python',
  'state',
  'ui',
  'queries',
  'column',
  'search',
  'choice',
  'map',
  'lake',
]
const PAGES = ['account', 'box', 'chart', 'instruments', 'practice', 'steps', 'tank', 'waters', 'welcome']

/** Forbid a room to import from others. */
function apart(room, others) {
  const regex = `^(\\.\\./)+(?:${others.join('|')})(?:/|$)`
  const message = `${room} stands below it: see eslint.config.js.`
  return {
    files: [`src/${room}/**`],
    rules: { 'no-restricted-imports': ['error', { patterns: [{ regex, message }] }] },
  }
}

export default tseslint.config(
  { ignores: ['dist', 'src/api/schema.ts'] },
  js.configs.recommended,
  ...tseslint.configs.strict,
  {
    files: ['src/**'],
    extends: [...tseslint.configs.strictTypeCheckedOnly, jsxA11y.flatConfigs.recommended],
    languageOptions: { parserOptions: { projectService: true, tsconfigRootDir: import.meta.dirname } },
    rules: {
      '@typescript-eslint/no-confusing-void-expression': ['error', { ignoreArrowShorthand: true }],
      '@typescript-eslint/restrict-template-expressions': ['error', { allowNumber: true }],
      // Handlers are declared as methods of their props, and none of them uses `this`.
      '@typescript-eslint/unbound-method': 'off',
      // What scrolls or takes keys is reached by the keyboard; without its role one browser drops a list that shows no bullets.
      'jsx-a11y/no-noninteractive-tabindex': [
        'error',
        { roles: ['application', 'group', 'list'], tags: ['ul'] },
      ],
      'jsx-a11y/no-redundant-roles': ['error', { ul: ['list'] }],
    },
  },
  reactHooks.configs.flat['recommended-latest'],
  {
    // A component that is longer shows more than one thing.
    rules: { 'max-lines-per-function': ['error', { max: 120, skipBlankLines: true, skipComments: true }] },
  },
  ...GROUND.map((room, i) => apart(room, [...GROUND.slice(i + 1), ...PAGES])),
  ...PAGES.map((room) =>
    apart(
      room,
      PAGES.filter((other) => other !== room),
    ),
  ),
)
