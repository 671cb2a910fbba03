import tailwindcss from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';

const isolation = {
	'Cross-Origin-Opener-Policy': 'same-origin',
	'Cross-Origin-Embedder-Policy': 'require-corp',
	'Cross-Origin-Resource-Policy': 'same-origin',
};

export default defineConfig({
	root: import.meta.dirname,
	plugins: [react(), tailwindcss()],
	worker: { format: 'es' },
	server: {
		port: 5173,
		strictPort: true,
		host: '127.0.0.1',
		headers: isolation,
		proxy: { '/api': { target: 'http://127.0.0.1:4310', changeOrigin: true } },
	},
	build: { target: 'es2022', sourcemap: true, chunkSizeWarningLimit: 1200 },
});
