import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';

const server = `http://127.0.0.1:${process.env.VIATICUM_PORT ?? 4870}`;

export default defineConfig({
  plugins: [react()],
  // The server puts a nonce of its own into every page.
  html: { cspNonce: '__NONCE__' },
  worker: { format: 'es' },
  // `css.stepRow` is `.step-row` of the module beside the component.
  css: { modules: { localsConvention: 'camelCase' } },
  build: {
    target: 'es2022',
    assetsInlineLimit: 0,
    chunkSizeWarningLimit: 900,
    rollupOptions: { input: { index: 'index.html', follow: 'follow.html' } },
  },
  resolve: { conditions: ['workspace', 'module', 'browser', 'development|production'] },
  server: { proxy: { '/api': { target: server, ws: true, changeOrigin: false } } },
});
