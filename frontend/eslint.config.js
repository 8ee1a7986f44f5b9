import prettier from 'eslint-config-prettier'
import vue from 'eslint-plugin-vue'
import typescript from 'typescript-eslint'

// A sheet of a job is reached by `sheetOf`, whose stages are checked: an address written out is not.
const ADDRESS = {
  selector: 'TemplateElement[value.raw=/^\\u002fjobs\\u002f(?!:)/], Literal[value=/^\\u002fjobs\\u002f[^:]+\\u002f/]',
  message: 'Use sheetOf(job, stage) of features/job/stages.ts.',
}

export default typescript.config(
  { ignores: ['dist', 'node_modules', 'src/api/schema.d.ts'] },
  ...typescript.configs.strictTypeChecked,
  ...vue.configs['flat/recommended'],
  {
    languageOptions: {
      parserOptions: { projectService: true, tsconfigRootDir: import.meta.dirname, extraFileExtensions: ['.vue'] },
    },
  },
  { files: ['**/*.vue'], languageOptions: { parserOptions: { parser: typescript.parser } } },
  {
    rules: {
      // What a component of Vue is, vue-tsc knows and the linter does not: unsafe is what it cannot tell.
      '@typescript-eslint/no-unsafe-assignment': 'off',
      '@typescript-eslint/no-unsafe-return': 'off',
      '@typescript-eslint/no-unsafe-call': 'off',
      '@typescript-eslint/no-unsafe-member-access': 'off',
      '@typescript-eslint/no-unsafe-argument': 'off',
      '@typescript-eslint/no-unsafe-enum-assignment': 'off',
      '@typescript-eslint/no-base-to-string': 'off', // what a form holds is typed text, figures and ticks
      '@typescript-eslint/no-confusing-void-expression': ['error', { ignoreArrowShorthand: true }],
      '@typescript-eslint/restrict-template-expressions': ['error', { allowNumber: true }],
      'vue/require-default-prop': 'off', // an optional prop is undefined, and typed so
      'no-restricted-syntax': ['error', ADDRESS],
      'vue/no-restricted-syntax': ['error', ADDRESS],
    },
  },
  { files: ['**/*.js'], ...typescript.configs.disableTypeChecked },
  prettier,
)
