import next from 'eslint-config-next/core-web-vitals';
import tseslint from 'typescript-eslint';

const MARKUP_FROM_TEXT = {
  selector: "JSXAttribute[name.name='dangerouslySetInnerHTML']",
  message: 'Text from files is never trusted as HTML.',
};

export default tseslint.config(
  {
    ignores: [
      '.next/**',
      'dist/**',
      'node_modules/**',
      'next-env.d.ts',
      'src/engine/search/**',
      'src/engine/training/**',
      'src/engine/endings/**',
      'src/engine/mates/**',
      '.data*/**',
      'public/**',
      'test-results/**',
    ],
  },
  ...next,
  ...tseslint.configs.recommended,
  {
    rules: {
      '@typescript-eslint/no-unused-vars': [
        'error',
        { varsIgnorePattern: '^_', argsIgnorePattern: '^_' },
      ],
      '@typescript-eslint/no-non-null-assertion': 'off',
      eqeqeq: 'error',
      'no-restricted-syntax': ['error', MARKUP_FROM_TEXT],
    },
  },
  {
    files: ['src/ui/**/*.tsx', 'src/app/**/*.tsx'],
    rules: {
      'react/jsx-no-literals': [
        'error',
        { ignoreProps: true, allowedStrings: [...'%…·[].()–:', 'Bektra'] },
      ],
      'no-restricted-syntax': [
        'error',
        MARKUP_FROM_TEXT,
        {
          selector:
            'JSXAttribute[name.name=/^(aria-label|title|placeholder|alt|label)$/] > Literal[value=/[A-Za-z]/]',
          message: 'What people read comes from the message catalogue.',
        },
      ],
    },
  },
  {
    files: ['src/core/**'],
    ignores: ['**/*.test.ts'],
    rules: {
      'no-restricted-globals': [
        'error',
        'fetch',
        'window',
        'document',
        'process',
        'setTimeout',
        'setInterval',
      ],
      'no-restricted-properties': [
        'error',
        {
          object: 'Math',
          property: 'random',
          message: 'core is pure: take the draw as an argument',
        },
        { object: 'Date', property: 'now', message: 'core is pure: take the time as an argument' },
      ],
    },
  },
);
