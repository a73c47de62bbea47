import prettier from 'eslint-config-prettier'
import vue from 'eslint-plugin-vue'
import ts from 'typescript-eslint'

export default ts.config(
  { ignores: ['dist', 'components.d.ts', 'src/api/schema.d.ts'] },
  ...ts.configs.strict,
  ...vue.configs['flat/recommended'],
  {
    files: ['**/*.vue'],
    languageOptions: { parserOptions: { parser: ts.parser, extraFileExtensions: ['.vue'] } },
  },
  {
    rules: {
      'no-undef': 'off',
      // The page computes nothing of the job and talks to the server in one place only.
      'no-restricted-globals': ['error', { name: 'fetch', message: 'Use src/api/client.ts.' }],
      'vue/multi-word-component-names': 'off',
    },
  },
  { files: ['src/api/client.ts'], rules: { 'no-restricted-globals': 'off' } },
  prettier,
)
