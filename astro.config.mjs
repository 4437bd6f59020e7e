import node from '@astrojs/node';
import react from '@astrojs/react';
import tailwindcss from '@tailwindcss/vite';
import { defineConfig } from 'astro/config';
import { bundledPackages } from './scripts/bundled-packages.mjs';

export default defineConfig({
  srcDir: './web',
  publicDir: './web/public',
  outDir: './dist/web',
  output: 'server',
  adapter: node({ mode: 'standalone' }),
  integrations: [react()],
  devToolbar: { enabled: false },
  security: { checkOrigin: false },
  vite: {
    plugins: [tailwindcss()],
    ssr: { external: ['@electric-sql/pglite'], noExternal: bundledPackages },
    worker: { format: 'es' },
  },
});
