import tailwindcss from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';

export default defineConfig({
  plugins: [react(), tailwindcss()],
  worker: { format: 'es' },
  build: { target: 'es2023', chunkSizeWarningLimit: 2000 },
  server: {
    host: '127.0.0.1',
    proxy: { '/api': { target: process.env.VARRUP_API ?? 'http://127.0.0.1:4173', changeOrigin: true } },
  },
});
