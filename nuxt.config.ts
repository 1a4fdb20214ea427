import { cp } from 'node:fs/promises'
import { createRequire } from 'node:module'
import { join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { build } from 'esbuild'

export default defineNuxtConfig({
  compatibilityDate: '2026-11-01',
  modules: ['@nuxt/ui', '@pinia/nuxt', 'nuxt-auth-utils', 'nuxt-security', '@vite-pwa/nuxt', '@nuxt/eslint'],
  // The field pages are an app that opens without a network: one shell, rendered by the browser.
  ssr: false,
  // The development server of this version looks for a server entry even when there is none to render.
  $development: {
    vite: {
      environments: {
        ssr: {
          build: {
            rollupOptions: { input: { server: fileURLToPath(new URL('./node_modules/nuxt/dist/app/entry-spa.js', import.meta.url)) } },
          },
        },
      },
    },
  },
  devtools: { enabled: false },
  telemetry: false,
  css: ['~/assets/main.css'],
  // A line break between inline parts is a space, as in HTML and as the formatter takes it.
  vue: { compilerOptions: { whitespace: 'preserve' } },
  ui: { fonts: false },
  icon: { clientBundle: { scan: true, sizeLimitKb: 256 }, serverBundle: 'local', fallbackToApi: false },
  colorMode: { preference: 'system', fallback: 'light', storageKey: 'circuitry-theme' },
  // The session store asks for the viewer itself.
  auth: { loadStrategy: 'none' },
  app: {
    head: {
      title: 'Circuitry',
      htmlAttrs: { lang: 'en' },
      meta: [
        { name: 'viewport', content: 'width=device-width, initial-scale=1, viewport-fit=cover' },
        { name: 'theme-color', content: '#f5f1e8' },
      ],
      link: [{ rel: 'icon', type: 'image/svg+xml', href: '/mark.svg' }],
    },
  },
  // The service worker keeps every part anyway: a link in sight is no reason to load its page.
  experimental: { defaults: { nuxtLink: { prefetchOn: { visibility: false, interaction: true } } } },
  typescript: { strict: true, tsConfig: { compilerOptions: { noUncheckedIndexedAccess: true, types: ['jest'] } } },
  pwa: {
    registerType: 'autoUpdate',
    manifest: {
      name: 'Circuitry',
      short_name: 'Circuitry',
      description: 'Job record, dispatch and safety for smart-switch crews',
      start_url: '/',
      display: 'standalone',
      background_color: '#f5f1e8',
      theme_color: '#f5f1e8',
      icons: [{ src: '/mark.svg', sizes: 'any', type: 'image/svg+xml', purpose: 'any' }],
    },
    workbox: {
      globPatterns: ['**/*.{js,css,svg,woff2}'],
      // The dictionary of sounds, larger than all the rest: it is kept once somebody needed it.
      globIgnores: ['_nuxt/index-*.js'],
      maximumFileSizeToCacheInBytes: 4_000_000,
      // The shell is the same for every page: the newest if there is a network, else the one kept at the last visit.
      navigateFallback: null,
      runtimeCaching: [
        {
          urlPattern: ({ request }: { request: Request }) => request.mode === 'navigate',
          handler: 'NetworkFirst',
          options: {
            cacheName: 'shell',
            networkTimeoutSeconds: 4,
            plugins: [{ cacheKeyWillBeUsed: async () => '/' }],
          },
        },
        {
          urlPattern: /\/_nuxt\/[^/]+\.(?:js|wasm)$/,
          handler: 'CacheFirst',
          options: { cacheName: 'large-parts', expiration: { maxEntries: 4 } },
        },
        {
          urlPattern: /\/api\/photos\//,
          handler: 'CacheFirst',
          options: { cacheName: 'pictures', expiration: { maxEntries: 120, maxAgeSeconds: 60 * 60 * 24 * 7 } },
        },
      ],
    },
    // Registered by our own plugin: a customer who opens an offer keeps none of the program.
    client: { registerPlugin: false },
  },
  runtimeConfig: {
    session: {
      name: 'circuitry',
      maxAge: 60 * 60 * 24 * 14,
      password: '',
      // The cookie alone: no header is a login.
      sessionHeader: false,
      // Over TLS (CIRCUITRY_ORIGIN) the server sets secure when it starts: server/plugins/database.ts.
      cookie: { sameSite: 'lax', httpOnly: true, secure: false },
    },
  },
  security: {
    headers: {
      // At run time: server/middleware/05.tls.ts.
      strictTransportSecurity: false,
      contentSecurityPolicy: {
        'default-src': ["'self'"],
        'script-src': ["'self'", "'nonce-{{nonce}}'", "'strict-dynamic'", "'wasm-unsafe-eval'"],
        'style-src': ["'self'", "'unsafe-inline'"],
        'img-src': ["'self'", 'data:', 'blob:'],
        'font-src': ["'self'"],
        'connect-src': ["'self'"],
        'worker-src': ["'self'", 'blob:'],
        'object-src': ["'none'"],
        'base-uri': ["'none'"],
        'frame-ancestors': ["'none'"],
        'form-action': ["'self'"],
        'upgrade-insecure-requests': false,
      },
      crossOriginEmbedderPolicy: false,
      permissionsPolicy: { camera: ['self'], geolocation: [], microphone: [], payment: [], usb: [] },
    },
    rateLimiter: false,
    xssValidator: false,
    // Each route reads its own body up to its own limit, also where no length was said.
    requestSizeLimiter: false,
  },
  imports: {
    presets: [
      {
        from: '@vueuse/core',
        imports: [
          'useLocalStorage',
          'watchDebounced',
          'useEventListener',
          'useDebounceFn',
          'refDebounced',
          'useElementSize',
          'useMounted',
          'useMutationObserver',
          'useResizeObserver',
          'useWakeLock',
          'until',
        ],
      },
    ],
  },
  // The service worker keeps all parts for later; asked for with the first page, they would only delay it.
  hooks: {
    // Threads beside the server (server/services/thread.ts): bundled by themselves, for a part that the server shares would bring the
    // whole server into the thread.
    'nitro:init': (nitro) => {
      // Pages call routes by their contracts (app/utils/api.ts): types of the route files would bring the whole server into theirs.
      nitro.hooks.hook('types:extend', (types: { routes: object }) => void (types.routes = {}))
      nitro.hooks.hook('compiled', async () => {
        const workers = join(String(nitro.options.output.serverDir), 'workers')
        await build({
          entryPoints: ['papers', 'intake'].map((name) => fileURLToPath(new URL(`./server/workers/${name}.ts`, import.meta.url))),
          outdir: workers,
          outExtension: { '.js': '.mjs' },
          ...{ bundle: true, platform: 'node', format: 'esm', packages: 'external', logLevel: 'error' },
        })
        // The letters of papers go along: what is built runs alone.
        for (const part of ['latin', 'latin-ext'])
          for (const weight of [400, 700]) {
            const name = `atkinson-hyperlegible-next-${part}-${weight}-normal.woff`
            const from = createRequire(import.meta.url).resolve(`@fontsource/atkinson-hyperlegible-next/files/${name}`)
            await cp(from, join(workers, 'fonts', name))
          }
      })
    },
    'build:manifest': (parts) => {
      for (const part of Object.values(parts)) part.prefetch = false
    },
  },
  // The config type does not know the server's own options.
  nitro: {
    // For those who serve: a build that is only tested does without the slower of the two.
    compressPublicAssets: { gzip: true, brotli: process.env.CIRCUITRY_QUICK_BUILD !== '1' },
  } as object,
  eslint: { config: { stylistic: false } },
})
