// Style is Prettier's; what is checked here is meaning, with types: a promise that nobody waits for is a fault.
import prettier from 'eslint-config-prettier'
import vue from 'eslint-plugin-vue'
import tseslint from 'typescript-eslint'
import * as parser from './eslint.parser.js'

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
      'no-undef': 'off',
    },
  },
  { files: ['src/**/*.ts'], languageOptions: { parser } },
  prettier,
)
