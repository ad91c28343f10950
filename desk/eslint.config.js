// The desk's rules: Vue's and TypeScript's recommended ones, and three of the house.
import js from '@eslint/js'
import prettier from 'eslint-config-prettier'
import vue from 'eslint-plugin-vue'
import globals from 'globals'
import ts from 'typescript-eslint'

export default ts.config(
  { ignores: ['dist', '**/api-types.ts'] },
  js.configs.recommended,
  ...ts.configs.recommended,
  ...vue.configs['flat/recommended'],
  { languageOptions: { globals: globals.browser } },
  { files: ['**/*.vue'], languageOptions: { parserOptions: { parser: ts.parser } } },
  {
    rules: {
      'no-nested-ternary': 'error',
      'max-len': ['error', { code: 110, ignoreUrls: true, ignorePattern: '^import ' }],
      'max-lines-per-function': ['error', { max: 60, skipBlankLines: true, skipComments: true }],
      'vue/multi-word-component-names': 'off',
      'vue/max-template-depth': 'off',
      '@typescript-eslint/no-non-null-assertion': 'off',
    },
  },
  prettier,
)
