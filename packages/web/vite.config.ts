import tailwindcss from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';
import { contractForBrowser } from './build/contractForBrowser.ts';

export default defineConfig({
  plugins: [react(), tailwindcss(), contractForBrowser()],
  build: { outDir: '../../dist/web', emptyOutDir: true, target: 'es2022', chunkSizeWarningLimit: 700 },
  optimizeDeps: { exclude: ['@kanonos/core', '@kanonos/contract'] },
});
