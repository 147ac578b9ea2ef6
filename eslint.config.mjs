// React's own strict rules; all else is Biome's.
import babel from '@babel/eslint-parser';
import hooks from 'eslint-plugin-react-hooks';

export default [
  {
    files: ['packages/web/src/**/*.{ts,tsx}'],
    ignores: ['packages/web/src/generated/**'],
    plugins: { 'react-hooks': hooks },
    languageOptions: {
      parser: babel,
      parserOptions: {
        requireConfigFile: false,
        babelOptions: { babelrc: false, configFile: false, parserOpts: { plugins: ['typescript', 'jsx'] } },
      },
    },
    linterOptions: { reportUnusedDisableDirectives: 'off' },
    // The compiler itself is not used: what it would make of memos is no matter. What effects depend on is asked by Biome.
    rules: {
      ...hooks.configs['recommended-latest'].rules,
      'react-hooks/preserve-manual-memoization': 'off',
      'react-hooks/exhaustive-deps': 'off',
    },
  },
];
