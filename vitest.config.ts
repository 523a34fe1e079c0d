import { fileURLToPath } from 'node:url';
import { defineConfig } from 'vitest/config';

const CORE = 'src/core/**/*.test.ts';

export default defineConfig({
  resolve: { alias: { '@': fileURLToPath(new URL('./src', import.meta.url)) } },
  test: {
    testTimeout: 60_000,
    hookTimeout: 60_000,
    projects: [
      {
        extends: true,
        // The core keeps nothing and starts no process: its tests share their modules, and run beside each other.
        test: {
          name: 'core',
          include: [CORE],
          isolate: false,
          maxWorkers: 2,
          sequence: { groupOrder: 0 },
        },
      },
      {
        extends: true,
        // These have shops, processes and threads of their own: one after the other.
        test: {
          name: 'shop',
          // Threads and terminal are tested as they ship.
          globalSetup: 'scripts/bundle-once.mjs',
          include: ['src/**/*.test.ts', 'demo/**/*.test.ts'],
          exclude: [CORE],
          maxWorkers: 1,
          sequence: { groupOrder: 1 },
        },
      },
    ],
  },
});
