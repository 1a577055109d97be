import vue from '@vitejs/plugin-vue';
import { gzipSync } from 'node:zlib';
import { defineConfig, type Plugin } from 'vite';

/** Leaves a compressed twin beside each text file, so that the server packs nothing per request. */
function compressedTwins(): Plugin {
  return {
    name: 'compressed-twins',
    apply: 'build',
    generateBundle(_, bundle) {
      for (const [name, file] of Object.entries(bundle)) {
        if (!/\.(js|css)$/.test(name)) continue;
        const source = file.type === 'chunk' ? file.code : file.source;
        this.emitFile({ type: 'asset', fileName: `${name}.gz`, source: gzipSync(source, { level: 9 }) });
      }
    },
  };
}

export default defineConfig({
  plugins: [vue(), compressedTwins()],
  resolve: { alias: { '@': new URL('./src', import.meta.url).pathname } },
  build: { target: 'es2022', reportCompressedSize: false, chunkSizeWarningLimit: 900 },
  server: { proxy: { '/api': 'http://127.0.0.1:8427' } },
});
