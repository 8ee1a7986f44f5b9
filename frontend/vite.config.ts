import tailwindcss from '@tailwindcss/vite'
import vue from '@vitejs/plugin-vue'
import { defineConfig, type Plugin } from 'vite'

const BASE = '/static/'

/** Tells the service worker the files it keeps, so that every screen opens again without a server. */
function shell(): Plugin {
  return {
    name: 'shell',
    generateBundle(_, bundle) {
      const kept = Object.keys(bundle).filter(
        (name) => name.startsWith('assets/') && !/-(cyrillic|greek|vietnamese)/.test(name),
      )
      const sw = bundle['sw.js']
      if (sw?.type !== 'chunk') throw new Error('sw.js was not built')
      sw.code = sw.code.replace(/["'`]__SHELL__["'`]/, JSON.stringify(kept.map((name) => BASE + name)))
    },
  }
}

export default defineConfig({
  base: BASE,
  plugins: [vue(), tailwindcss(), shell()],
  resolve: { alias: { '@': new URL('./src', import.meta.url).pathname } },
  build: {
    assetsInlineLimit: 0,
    target: 'es2022',
    rollupOptions: {
      input: { index: 'index.html', sw: 'src/sw.ts' },
      output: {
        entryFileNames: ({ name }) => (name === 'sw' ? 'sw.js' : 'assets/[name]-[hash].js'),
        // A slow network pays for each file: what every view starts with is one, and what several share is another.
        codeSplitting: {
          groups: [
            { name: 'base', tags: ['$initial'], test: (id: string) => !/workbox|[\\/]sw\.ts/.test(id), priority: 2 },
            {
              name: 'shared',
              test: (id: string) => !/uplot|Plot\.vue|Bench\.vue|[\\/]circuits[\\/]/i.test(id),
              minShareCount: 2,
              priority: 1,
            },
          ],
        },
      },
    },
  },
})
