import { fileURLToPath } from 'node:url';
import { defineConfig } from 'vitest/config';

// They may run behind what has the machine to itself, and then take long.
const shared = { testTimeout: 180_000, hookTimeout: 180_000, pool: 'threads' } as const;

export default defineConfig({
  resolve: { alias: { '@': fileURLToPath(new URL('./src', import.meta.url)) } },
  test: {
    maxWorkers: 2,
    projects: [
      // The core keeps nothing between calls, so its tests share what they load.
      { extends: true, test: { ...shared, name: 'core', include: ['src/core/**/*.test.ts'], isolate: false } },
      {
        extends: true,
        test: {
          ...shared,
          name: 'rest',
          include: ['src/**/*.test.ts', 'src/**/*.test.tsx', 'scripts/**/*.test.ts'],
          exclude: ['src/core/**'],
        },
      },
    ],
  },
});
