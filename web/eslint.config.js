import { readdirSync } from 'node:fs'
import { createTypeScriptImportResolver } from 'eslint-import-resolver-typescript'
import { flatConfigs as imports, importX } from 'eslint-plugin-import-x'
import a11y from 'eslint-plugin-jsx-a11y'
import hooks from 'eslint-plugin-react-hooks'
import tseslint from 'typescript-eslint'

const features = readdirSync(new URL('src/features', import.meta.url))

export default tseslint.config(
  { ignores: ['src/api/schema.d.ts'] },
  tseslint.configs.recommended,
  hooks.configs.flat.recommended,
  a11y.flatConfigs.recommended,
  imports.typescript,
  {
    languageOptions: { parserOptions: { projectService: true, tsconfigRootDir: import.meta.dirname } },
    plugins: { 'import-x': importX },
    settings: {
      'import-x/resolver-next': [createTypeScriptImportResolver()],
      'jsx-a11y': { components: { Input: 'input', Select: 'select', Inline: 'select', Textarea: 'textarea' } },
    },
    rules: {
      'jsx-a11y/label-has-associated-control': ['error', { depth: 4 }],
      'jsx-a11y/no-autofocus': 'off', // dialogs and sign-in begin in their field, which Radix expects
      'jsx-a11y/no-noninteractive-tabindex': 'off', // a region that scrolls must be reachable by key (axe checks)
      'jsx-a11y/media-has-caption': 'off', // the recording of one sound has no text to show
      'jsx-a11y/img-redundant-alt': 'off', // "picture" is a word of the trade here
      'import-x/no-cycle': 'error',
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
  // A tap anywhere on the stage goes on; the keys for it are listened to on the whole page (useKeys).
  {
    files: [
      'src/features/teach/**',
      'src/features/search/SearchDialog.tsx',
      'src/features/card/WordStock.tsx',
      'src/features/letters/Overlay.tsx',
    ],
    rules: {
      'jsx-a11y/click-events-have-key-events': 'off',
      'jsx-a11y/no-static-element-interactions': 'off',
      'jsx-a11y/no-noninteractive-element-interactions': 'off',
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
