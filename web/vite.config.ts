import tailwindcss from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';

// `npm run dev` shows the front end at once after every edit; the engine is asked at the port `warm-blend` serves.
const engine = process.env.WARM_BLEND ?? 'http://127.0.0.1:7878';

export default defineConfig({
  plugins: [react(), tailwindcss()],
  build: { target: 'es2023', assetsInlineLimit: 0 },
  server: {
    // The engine takes changes from its own page only, so the proxy speaks as that page.
    proxy: { '/api': { target: engine, changeOrigin: true, headers: { origin: engine } } },
  },
});
