import js from '@eslint/js'
import hooks from 'eslint-plugin-react-hooks'
import ts from 'typescript-eslint'

// One way: features may use ui and api, ui knows nothing of features.
const beside = (folder, above) => [
  ...above.map((a) => ({ group: [`**/${a}/**`], message: `${folder} stands below ${a}` })),
  ...(folder === 'features'
    ? [{ group: ['../[a-z]*/**', '!../../**'], message: 'features never use each other: what two of them show belongs to sections' }]
    : []),
]

export default ts.config(
  { ignores: ['dist', 'src/api/generated', 'eslint.config.js'] },
  js.configs.recommended,
  ...ts.configs.recommended,
  {
    plugins: { 'react-hooks': hooks },
    rules: { ...hooks.configs.recommended.rules, 'react-hooks/set-state-in-effect': 'off', 'react-hooks/incompatible-library': 'off' },
  },
  // Each folder may use only those before it; features never use each other.
  ...['api', 'ui', 'data', 'sections', 'features', 'frame'].map((folder, i, all) => ({
    files: [`src/${folder}/**`],
    rules: { 'no-restricted-imports': ['error', { patterns: beside(folder, all.slice(i + 1)) }] },
  })),
)
