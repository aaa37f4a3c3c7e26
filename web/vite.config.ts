import tailwindcss from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import { defineConfig, type Plugin } from 'vite';
import { VitePWA } from 'vite-plugin-pwa';

/** The package of messages puts its styles into the page from code, which the page's policy forbids; they come as a file instead. */
const messageStylesAsFile = (): Plugin => ({
  name: 'message-styles-as-file',
  transform(code, id) {
    if (!/sonner[\\/]dist[\\/]index\.mjs/.test(id)) return null;
    const without = code.replace(/^__insertCSS\(".*"\);?$/m, '');
    if (without === code) throw new Error('sonner puts its styles in differently now: see vite.config.ts.');
    return { code: without, map: null };
  },
});

export default defineConfig({
  plugins: [
    messageStylesAsFile(),
    react(),
    tailwindcss(),
    VitePWA({
      // The code of all pages is kept in the browser, so that none breaks without the network. A newer one waits until the
      // page is loaded again: a page that is open never loses the code it was built with.
      registerType: 'prompt',
      injectRegister: null,
      manifest: false,
      workbox: {
        globPatterns: ['**/*.{js,css,html,woff2,svg,png,ico}'],
        globIgnores: ['schemas/**'],
        navigateFallback: '/index.html',
        navigateFallbackDenylist: [/^\/api\//, /^\/schemas\//],
        maximumFileSizeToCacheInBytes: 4_000_000,
      },
    }),
  ],
  worker: { format: 'es' },
  build: { target: 'es2022', chunkSizeWarningLimit: 700 },
  server: { host: '127.0.0.1', proxy: { '/api': 'http://127.0.0.1:4400' } },
});
