/** @type {import('dependency-cruiser').IConfiguration} */
module.exports = {
  forbidden: [
    { name: 'no-circle', severity: 'error', from: {}, to: { circular: true } },
    { name: 'core-knows-nothing-else', severity: 'error', from: { path: '^core/' }, to: { path: '^(app|server|link)/' } },
    { name: 'link-knows-core-only', severity: 'error', from: { path: '^link/' }, to: { path: '^(app|server)/' } },
    { name: 'nobody-knows-the-link', severity: 'error', from: { path: '^(app|server|core)/' }, to: { path: '^link/' } },
    { name: 'app-knows-no-server', severity: 'error', from: { path: '^app/' }, to: { path: '^server/' } },
    { name: 'server-knows-no-app', severity: 'error', from: { path: '^server/' }, to: { path: '^app/' } },
    {
      name: 'test-code-stays-out',
      comment: 'What only tests use is in no bundle.',
      severity: 'error',
      from: { pathNot: '(/testing/|\\.test\\.ts$|^e2e/)' },
      to: { path: '(/testing/|\\.test\\.ts$|^e2e/)' },
    },
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.json' },
    exclude: { path: '(\\.nuxt|\\.output|node_modules)' },
  },
}
