import vue from '@vitejs/plugin-vue';
import { readFileSync, writeFileSync } from 'node:fs';
import { gzipSync } from 'node:zlib';
import { defineConfig, type Plugin } from 'vite';

/**
 * Leaves a compressed twin beside each text file, so that the server packs nothing per request.
 * From the files as written: other plugins still change the code while the bundle is generated.
 */
function compressedTwins(): Plugin {
  return {
    name: 'compressed-twins',
    apply: 'build',
    writeBundle({ dir }, bundle) {
      for (const name of Object.keys(bundle).filter((name) => /\.(js|css)$/.test(name))) {
        const path = `${dir}/${name}`;
        writeFileSync(`${path}.gz`, gzipSync(readFileSync(path), { level: 9 }));
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
