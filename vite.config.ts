import tailwindcss from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import { fileURLToPath } from 'node:url';
import { defineConfig } from 'vite';

// Small pieces nearly every page shares: together they cost one request and compress better.
const SHARED_PIECES = [
  'core/base/(rounding|grouped|units|standards)',
  'core/compare/result',
  'web/compare/standings',
  'web/capture/accounting',
  'lucide-react/dist/esm/icons/download',
  'web/base/(ui|format|told|retold|shown-dates|download|preferences)',
];
const SHARED = new RegExp(`/(${SHARED_PIECES.join('|')})\\.(tsx?|m?js)$`);

/** The ribbon and its parts, which never come apart. */
const RIBBON = /\/web\/compare\/(gain-ribbon|ribbon-parts|ribbon-scales|shared-cursor)\.tsx?$/;

/**
 * The chart library takes all of d3’s scales, by a namespace. It gets the copy that comes with it: sharing
 * one with the ribbon would put them all on the public pages, which need the linear one.
 */
const D3_OF_CHARTS = {
  find: 'victory-vendor/d3-scale',
  replacement: fileURLToPath(new URL('node_modules/victory-vendor/lib/d3-scale.js', import.meta.url)),
};

export default defineConfig({
  root: 'web',
  plugins: [react(), tailwindcss()],
  resolve: { alias: [D3_OF_CHARTS] },
  build: {
    outDir: '../dist/web',
    emptyOutDir: true,
    chunkSizeWarningLimit: 1200,
    rolldownOptions: {
      output: {
        codeSplitting: {
          groups: [
            { name: 'ui', test: SHARED },
            { name: 'ribbon', test: RIBBON },
          ],
        },
      },
    },
  },
  server: { proxy: { '/api': 'http://127.0.0.1:4780' } },
});
