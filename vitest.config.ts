import { fileURLToPath } from 'node:url';
import { defineConfig } from 'vitest/config';

export default defineConfig({
  resolve: { alias: { '@': fileURLToPath(new URL('./src', import.meta.url)) } },
  test: {
    include: ['src/**/*.test.ts', 'demo/**/*.test.ts'],
    // Threads and terminal are tested as they ship.
    globalSetup: 'scripts/bundle-once.mjs',
    testTimeout: 60_000,
    hookTimeout: 60_000,
  },
});
