import withNuxt from './.nuxt/eslint.config.mjs'

const no = (group, message) => ({ 'no-restricted-imports': ['error', { patterns: [{ group, message }] }] })

const onlyTypes = (schemasToo) => ({
  '@typescript-eslint/no-restricted-imports': [
    'error',
    {
      patterns: [
        { group: ['**/server/**'], message: 'What both speak stands in core/protocol.' },
        ...(schemasToo ? [{ group: ['**/core/protocol'], message: 'Only types come from the contracts.', allowTypeImports: true }] : []),
      ],
    },
  ],
})

export default withNuxt(
  { ignores: ['.output', '.data', '.circuitry', 'core/*/golden', 'docs', 'samples'] },
  {
    rules: {
      'vue/multi-word-component-names': 'off',
      'vue/html-self-closing': ['error', { html: { void: 'any' } }],
      'vue/max-attributes-per-line': 'off',
      'vue/singleline-html-element-content-newline': 'off',
      '@typescript-eslint/no-explicit-any': 'error',
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      // Records keyed by id are maps; taking an entry out is their normal use.
      '@typescript-eslint/no-dynamic-delete': 'off',
      eqeqeq: 'error',
    },
  },
  // Dependencies point down only: app -> core, server -> core, never back.
  {
    files: ['core/**/*.ts'],
    rules: {
      ...no(
        [
          '**/app/**',
          '**/server/**',
          '**/link/main',
          '@matter/main*',
          '@matter/general',
          '@matter/protocol',
          '~*',
          '~~*',
          '@/*',
          '#*',
          'vue',
          'vue/*',
          'nuxt*',
          'h3',
          'sequelize',
          'pinia',
          'node:*',
        ],
        'core computes and knows nothing else: no interface, no server, no database.',
      ),
      'no-restricted-globals': ['error', 'window', 'document', 'fetch', 'process', 'localStorage'],
      'no-restricted-properties': [
        'error',
        { object: 'Date', property: 'now', message: 'The clock is passed in.' },
        { object: 'Math', property: 'random', message: 'Randomness is passed in.' },
      ],
    },
  },
  { files: ['core/**/*.test.ts', 'core/testing/golden.ts'], rules: { 'no-restricted-imports': 'off' } },
  { files: ['server/api/**/*.ts'], rules: no(['**/database/models*', 'sequelize'], 'Routes are thin: only services touch models.') },
  // Whatever is written is begun anew where others stand in its way, and says 503 where the database is in trouble.
  {
    files: ['server/**/*.ts'],
    ignores: ['server/database/*.ts', 'server/services/company-writer.ts', 'server/**/*.test.ts', 'server/testing/**'],
    rules: {
      'no-restricted-syntax': [
        'error',
        { selector: "CallExpression[callee.property.name='transaction']", message: 'transacted() of server/database does transactions.' },
      ],
    },
  },
  // The screens know what the server says by its contracts, and those by type only: schemas stay out of field pages.
  { files: ['app/**/*.{ts,vue}'], rules: onlyTypes(true) },
  // Forms of the office are checked by the contract they are sent by.
  { files: ['app/components/settings/*.vue', 'app/pages/setup.vue'], rules: onlyTypes(false) },
)
