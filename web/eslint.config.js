import hooks from 'eslint-plugin-react-hooks'
import tseslint from 'typescript-eslint'

// A feature never imports another feature; what two need goes to ui/ or api/.
const features = ['signin', 'wall', 'card', 'introduction', 'teach', 'team', 'words', 'texts']

export default tseslint.config(
  { ignores: ['src/api/schema.d.ts'] },
  tseslint.configs.recommended,
  hooks.configs.flat.recommended,
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
