import prettier from 'eslint-config-prettier'
import vue from 'eslint-plugin-vue'
import typescript from 'typescript-eslint'

export default typescript.config(
  { ignores: ['dist', 'node_modules', 'src/api/schema.d.ts'] },
  ...typescript.configs.strict,
  ...vue.configs['flat/recommended'],
  { files: ['**/*.vue'], languageOptions: { parserOptions: { parser: typescript.parser } } },
  { rules: { 'vue/require-default-prop': 'off' } }, // an optional prop is undefined, and typed so
  prettier,
)
