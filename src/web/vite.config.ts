import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';

export default defineConfig({
  plugins: [react()],
  build: { target: 'es2023', sourcemap: false, modulePreload: { polyfill: false } },
  worker: { format: 'es' },
  server: {
    proxy: {
      '/api': 'http://127.0.0.1:5180',
      '/hubs': { target: 'http://127.0.0.1:5180', ws: true },
    },
  },
});
