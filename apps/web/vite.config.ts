import react from '@vitejs/plugin-react';
import optimizeLocales from '@react-aria/optimize-locales-plugin';
import { defaultClientConditions, defineConfig } from 'vite';

export default defineConfig({
  plugins: [react(), { ...optimizeLocales.vite({ locales: ['en-GB', 'en-US'] }), enforce: 'pre' }],
  resolve: { conditions: ['@crew/source', ...defaultClientConditions] },
  server: { host: '127.0.0.1', proxy: { '/api': 'http://127.0.0.1:4180' } },
  build: { chunkSizeWarningLimit: 900 },
});
