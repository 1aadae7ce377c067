import { readFileSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import tseslint from 'typescript-eslint';
import vue from 'eslint-plugin-vue';
import vueParser from 'vue-eslint-parser';
import sonarjs from 'eslint-plugin-sonarjs';
import { EXCEPTIONS, LIMITS } from './eslint.limits.js';

/** What only a page has: benches and browser tests, checked in the same pass, hand functions to one. */
const PAGE_ONLY = [
  'window document navigator location history localStorage sessionStorage screen requestAnimationFrame',
  'EventSource DOMParser Image HTMLElement Worker ImageBitmap',
  // Names of a window that a forgotten variable would be taken for.
  'self name event status length top parent origin close stop find open print scroll frames focus blur',
  'external alert confirm prompt',
].flatMap((names) => names.split(' '));

const limitsOf = ({ complexity = LIMITS.complexity, params = LIMITS.params }) => ({
  'sonarjs/cognitive-complexity': ['error', complexity],
  'max-params': ['error', params],
});

/** TypeScript files that hold a switch: to know the types of all others would take longer than the rest of the lint. */
const withSwitch = (folders) =>
  folders.flatMap((folder) =>
    readdirSync(folder, { recursive: true })
      .map((name) => join(folder, name))
      .filter((name) => name.endsWith('.ts') && !/node_modules|dist\/|core\/wasm/.test(name))
      .filter((name) => /\bswitch \(/.test(readFileSync(name, 'utf8'))),
  );

export default tseslint.config(
  {
    ignores: [
      '**/node_modules/**',
      '**/dist/**',
      '.fennip/**',
      'test-results/**',
      'playwright-report/**',
      '**/*.cjs',
    ],
  },
  ...tseslint.configs.strict,
  ...vue.configs['flat/recommended'],
  {
    files: ['**/*.vue'],
    languageOptions: { parser: vueParser, parserOptions: { parser: tseslint.parser, sourceType: 'module' } },
  },
  {
    rules: {
      '@typescript-eslint/no-explicit-any': 'error',
      '@typescript-eslint/no-non-null-assertion': 'error',
      '@typescript-eslint/consistent-type-imports': 'error',
      eqeqeq: 'error',
      'no-console': ['error', { allow: ['warn', 'error'] }],
      // Prettier owns the layout of templates.
      'vue/max-attributes-per-line': 'off',
      'vue/singleline-html-element-content-newline': 'off',
      'vue/multiline-html-element-content-newline': 'off',
      'vue/html-indent': 'off',
      'vue/html-self-closing': 'off',
      'vue/html-closing-bracket-newline': 'off',
      'vue/multi-word-component-names': 'off',
      // What the interface says stands in its language file.
      'vue/no-bare-strings-in-template': ['error', { allowlist: ['/', '·', ',', '−', '+', '○'] }],
    },
  },
  {
    // The one rule that asks what the types are: a case that is missing in a switch over names.
    files: withSwitch(['packages', 'bench/src']),
    languageOptions: { parserOptions: { project: ['./tsconfig.json', './packages/app/tsconfig.json'] } },
    rules: {
      '@typescript-eslint/switch-exhaustiveness-check': [
        'error',
        { considerDefaultExhaustiveForUnions: true, requireDefaultForNonUnion: true },
      ],
    },
  },
  {
    files: ['contract', 'files', 'server', 'cli', 'scenes', 'threads'].map((name) => `packages/${name}/**`),
    rules: { 'no-restricted-globals': ['error', ...PAGE_ONLY] },
  },
  {
    files: [
      'packages/cli/**',
      'bench/**',
      'packages/scenes/**',
      'packages/server/src/main.ts',
      'packages/server/src/upkeep.ts',
    ],
    rules: { 'no-console': 'off' },
  },
  { files: ['**/*.ts', '**/*.vue'], plugins: { sonarjs }, rules: limitsOf({}) },
  ...EXCEPTIONS.flatMap(({ files }) =>
    Object.entries(files).map(([file, bounds]) => ({ files: [file], rules: limitsOf(bounds) })),
  ),
);
