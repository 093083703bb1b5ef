import { defineConfig } from 'vitest/config'

/** Tests that put something in the place of a module, or change a table: each has modules of its own. */
const ALONE = ['**/madeUp.test.ts', 'app/frame/twoEditors.test.ts', 'app/editor/saving/*.test.ts', 'cli/*.test.ts']

export default defineConfig({
  test: {
    // Each suite has times in which it waits for a disk, a process or a browser.
    maxWorkers: 3,
    projects: [
      {
        test: {
          name: 'unit',
          include: ['{core,formats,render,authoring,server,cli,app,demo,bench}/**/*.test.ts'],
          exclude: ['**/node_modules/**', ...ALONE],
          globalSetup: 'scripts/bundleForTests.mjs',
          setupFiles: 'scripts/seedForTests.ts',
          environment: 'node',
          testTimeout: 120_000,
          // Modules are loaded once for all files of a worker: loading them again for each took a third of the time.
          isolate: false,
        },
      },
      {
        test: {
          name: 'alone',
          include: ALONE,
          globalSetup: 'scripts/bundleForTests.mjs',
          setupFiles: 'scripts/seedForTests.ts',
          environment: 'node',
          testTimeout: 120_000,
        },
      },
      {
        test: {
          name: 'long',
          include: ['{core,formats,server}/**/*.long.ts'],
          globalSetup: 'scripts/bundleForTests.mjs',
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
          globalSetup: ['scripts/bundleForTests.mjs', 'e2e/seed.ts'],
          // One browser for all suites of a worker.
          isolate: false,
          environment: 'node',
          testTimeout: 120_000,
          hookTimeout: 120_000,
          // A browser with an emulated GPU on a busy machine now and then loses an event; what fails twice is broken.
          retry: 1,
          expect: { poll: { timeout: 20_000, interval: 100 } },
        },
      },
    ],
  },
})
