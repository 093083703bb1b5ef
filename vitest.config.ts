import { defineConfig } from 'vitest/config'

export default defineConfig({
  test: {
    projects: [
      {
        test: {
          name: 'unit',
          include: ['{core,formats,render,server,cli,app,demo,bench}/**/*.test.ts'],
          environment: 'node',
          testTimeout: 120_000,
        },
      },
      {
        test: {
          name: 'long',
          include: ['{core,formats,server}/**/*.long.ts'],
          environment: 'node',
          testTimeout: 1_800_000,
          hookTimeout: 120_000,
          fileParallelism: false,
        },
      },
      {
        test: {
          name: 'browser',
          include: ['e2e/**/*.test.ts'],
          globalSetup: 'e2e/seed.ts',
          environment: 'node',
          testTimeout: 120_000,
          hookTimeout: 120_000,
          fileParallelism: false,
          // A browser with an emulated GPU on a busy machine now and then loses an event; what fails twice is broken.
          retry: 1,
          expect: { poll: { timeout: 20_000, interval: 100 } },
        },
      },
    ],
  },
})
