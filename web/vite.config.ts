import { readFileSync, writeFileSync } from 'node:fs';
import { brotliCompressSync } from 'node:zlib';
import tailwindcss from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import { defineConfig, type Plugin } from 'vite';

// `npm run dev` shows the front end at once after every edit; the engine is asked at the port `warm-blend` serves.
const engine = process.env.WARM_BLEND ?? 'http://127.0.0.1:7878';

/** Scripts and styles a second time, compressed as far as they go: the program hands them out as they are. */
const compressed: Plugin = {
  name: 'compressed',
  apply: 'build',
  writeBundle({ dir }, bundle) {
    for (const name of Object.keys(bundle).filter((name) => /\.(js|css)$/.test(name)))
      writeFileSync(`${dir}/${name}.br`, brotliCompressSync(readFileSync(`${dir}/${name}`)));
  },
};

export default defineConfig({
  plugins: [react(), tailwindcss(), compressed],
  build: { target: 'es2023', assetsInlineLimit: 0 },
  server: {
    // The engine takes changes from its own page only, so the proxy speaks as that page.
    proxy: { '/api': { target: engine, changeOrigin: true, headers: { origin: engine } } },
  },
});
