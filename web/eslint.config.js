import { readdirSync } from 'node:fs'
import hooks from 'eslint-plugin-react-hooks'
import tseslint from 'typescript-eslint'

const features = readdirSync(new URL('src/features', import.meta.url))

export default tseslint.config(
  { ignores: ['src/api/schema.d.ts'] },
  tseslint.configs.recommended,
  hooks.configs.flat.recommended,
  {
    languageOptions: { parserOptions: { projectService: true, tsconfigRootDir: import.meta.dirname } },
    rules: {
      // What the contract says is there is not asked for again.
      '@typescript-eslint/no-unnecessary-condition': ['error', { allowConstantLoopConditions: true }],
    },
  },
  // Calls to the server, and what is kept of their answers, stand in api.ts of a feature or in api/.
  {
    files: ['src/features/**', 'src/ui/**', 'src/app/**'],
    ignores: ['**/api.ts', '**/*.test.*', 'src/app/main.tsx'],
    rules: {
      'no-restricted-syntax': [
        'error',
        {
          selector: 'CallExpression[callee.name=/^(useQuery|useMutation|useInfiniteQuery)$/]',
          message: 'Questions and changes stand in api.ts of the feature.',
        },
        {
          selector: 'JSXOpeningElement[name.name="select"]',
          message: 'Select and Inline of ui/parts are the two looks of a choice.',
        },
        {
          selector: 'JSXOpeningElement[name.name="input"]:has(JSXAttribute[name.name="type"][value.value="file"])',
          message: 'FileButton of ui/parts chooses a file.',
        },
      ],
    },
  },
  // A feature never imports another feature; what two need goes to ui/ or api/.
  ...features.map((f) => ({
    files: [`src/features/${f}/**`],
    rules: {
      'no-restricted-imports': [
        'error',
        {
          patterns: [
            {
              regex: `features/(?!${f}/)|^\\.\\./(?!\\.\\.)[a-z]+/`,
              message: 'A feature never imports another feature.',
            },
          ],
        },
      ],
    },
  })),
)
