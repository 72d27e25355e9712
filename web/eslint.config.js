import js from '@eslint/js'
import hooks from 'eslint-plugin-react-hooks'
import ts from 'typescript-eslint'

// One way: features may use ui and api, ui knows nothing of features.
export default ts.config(
  { ignores: ['dist', 'src/api/generated', 'eslint.config.js'] },
  js.configs.recommended,
  ...ts.configs.recommended,
  { plugins: { 'react-hooks': hooks }, rules: { ...hooks.configs.recommended.rules, 'react-hooks/set-state-in-effect': 'off', 'react-hooks/incompatible-library': 'off' } },
  { files: ['src/ui/**'], rules: { 'no-restricted-imports': ['error', { patterns: ['**/features/*', '**/api/*'] }] } },
  { files: ['src/api/**'], rules: { 'no-restricted-imports': ['error', { patterns: ['**/features/*', '**/ui/*'] }] } },
)
