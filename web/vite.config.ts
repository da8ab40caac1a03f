import tailwindcss from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';

/**
 * The page's policy lets no text be run as script. Schemas would try whether it does, and the browser reports each try as an attack: they are
 * told not to, before the first is made, in whichever file it is.
 */
const output = { banner: 'globalThis.__zod_globalConfig = { jitless: true };' };

export default defineConfig({
  plugins: [react(), tailwindcss()],
  worker: { format: 'es', rolldownOptions: { output } },
  build: { target: 'es2023', chunkSizeWarningLimit: 2000, rolldownOptions: { output } },
  server: {
    host: '127.0.0.1',
    proxy: { '/api': { target: process.env.VARRUP_API ?? 'http://127.0.0.1:4173', changeOrigin: true } },
  },
});
