import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    include: ['{core,contract,server,web,bench,cli,demo}/**/*.test.{ts,tsx}'],
    testTimeout: 180_000,
    hookTimeout: 300_000,
    // Two cores: one file each is enough, and tests that ask a database do not crowd each other.
    maxWorkers: 2,
  },
});
