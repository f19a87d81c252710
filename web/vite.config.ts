import { sveltekit } from '@sveltejs/kit/vite';
import tailwindcss from '@tailwindcss/vite';
import { defineConfig } from 'vitest/config';

const server = process.env.MUDROOM_SERVER ?? 'http://127.0.0.1:5199';

export default defineConfig({
  plugins: [tailwindcss(), sveltekit()],
  server: { proxy: { '/api': server, '/live': { target: server, ws: true } } },
  build: { chunkSizeWarningLimit: 1500 },
  // How long a test takes says how loaded the machine is, and nothing of what it tests.
  test: { include: ['src/**/*.test.ts'], environment: 'happy-dom', testTimeout: 60_000 },
});
