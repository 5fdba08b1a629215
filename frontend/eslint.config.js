// Style is Prettier's; what is checked here is meaning, with types: a promise that nobody waits for is a fault.
import prettier from 'eslint-config-prettier'
import vue from 'eslint-plugin-vue'
import tseslint from 'typescript-eslint'
import * as parser from './eslint.parser.js'

// Every layer knows only those before it; of what the server says the first knows the shapes.
const LAYERS = ['lib', 'api', 'sound', 'state', 'parts']
const PLACES = ['bench', 'book', 'compare', 'ledger', 'log', 'start', 'takeout', 'worksheet']
const restricted = (folder, others, more = []) => ({
  files: [`src/${folder}/**/*.{ts,vue}`],
  rules: {
    '@typescript-eslint/no-restricted-imports': [
      'error',
      { patterns: [{ regex: `^(\\.\\./)+(${others.join('|')})/`, message: 'It lies in a later layer, or another place.' }, ...more] },
    ],
  },
})
const layers = [
  ...LAYERS.map((layer, n) => {
    const later = [...LAYERS.slice(n + 1), ...PLACES, 'frame']
    const plain = [
      { regex: '^(vue|pinia|element-plus)', message: 'It is plain: no Vue.' },
      { regex: '^\\.\\./api/(?!types$)', message: 'It knows no server.' },
      { regex: '^\\.\\./api/types$', allowTypeImports: true },
    ]
    return restricted(layer, layer === 'lib' ? later.filter((x) => x !== 'api') : later, layer === 'lib' ? plain : [])
  }),
  ...PLACES.map((place) => restricted(place, [...PLACES.filter((x) => x !== place), 'frame'])),
]

export default tseslint.config(
  { ignores: ['dist/**', 'src/api/schema.ts'] },
  ...tseslint.configs.recommended,
  ...vue.configs['flat/recommended'],
  {
    files: ['src/**/*.{ts,vue}'],
    languageOptions: {
      parserOptions: {
        parser,
        project: './tsconfig.json',
        tsconfigRootDir: import.meta.dirname,
        extraFileExtensions: ['.vue'],
      },
    },
    rules: {
      '@typescript-eslint/no-floating-promises': 'error',
      '@typescript-eslint/no-misused-promises': ['error', { checksVoidReturn: { arguments: false, attributes: false } }],
      '@typescript-eslint/await-thenable': 'error',
      '@typescript-eslint/return-await': 'error',
      '@typescript-eslint/no-unnecessary-type-assertion': 'error',
      '@typescript-eslint/switch-exhaustiveness-check': 'error',
      'vue/multi-word-component-names': 'off',
      'vue/attributes-order': 'off',
      'vue/no-undef-components': ['error', { ignorePatterns: ['^El', '^Router'] }],
      'no-undef': 'off',
    },
  },
  ...layers,
  { files: ['src/**/*.ts'], languageOptions: { parser } },
  prettier,
)
