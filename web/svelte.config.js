import adapter from '@sveltejs/adapter-static';
import { vitePreprocess } from '@sveltejs/vite-plugin-svelte';

/** A static front end with one page that draws all others; the server hands it out. */
export default {
  preprocess: vitePreprocess(),
  kit: {
    adapter: adapter({ pages: 'build', assets: 'build', fallback: 'index.html', precompress: true }),
    csp: {
      mode: 'hash',
      directives: {
        'default-src': ['self'],
        // The camera's reader is WebAssembly; this allows that and no script made from text.
        'script-src': ['self', 'wasm-unsafe-eval'],
        'style-src': ['self', 'unsafe-inline'],
        'img-src': ['self', 'data:', 'blob:'],
        'font-src': ['self', 'data:'],
        'manifest-src': ['self'],
        'worker-src': ['self'],
        'connect-src': ['self', 'ws:', 'wss:'],
      },
    },
  },
};
