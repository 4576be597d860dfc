import { defineConfig } from 'vitest/config';

/** Tests that start several servers, threads or processes at once: each needs both processors. */
const BUSY = [
  'packages/server/test/{floods,scoutings,start}.test.ts',
  'packages/cli/test/{scouting,bench}.test.ts',
  'packages/threads/test/*.test.ts',
];

/**
 * One run for every package without a browser in it; the web application has its own runner (`npm run unit:web`). Two files
 * run beside each other, first those that only compute, then those that start a server or a process at a time; the busy
 * ones follow one by one.
 */
const project = (
  name: string,
  groupOrder: number,
  {
    include,
    exclude = [],
    maxWorkers = 2,
    isolate = true,
  }: { include: string[]; exclude?: string[]; maxWorkers?: number; isolate?: boolean },
) => ({
  extends: true as const,
  test: { name, include, exclude, maxWorkers, isolate, sequence: { groupOrder } },
});

export default defineConfig({
  resolve: { conditions: ['source'] },
  ssr: { resolve: { conditions: ['source'] } },
  test: {
    testTimeout: 600_000,
    hookTimeout: 600_000,
    // A second, the default, is too short for a busy machine.
    expect: { poll: { timeout: 60_000 } },
    projects: [
      project('core', 0, { include: ['packages/{core,contract}/test/**/*.test.ts'], isolate: false }),
      project('processes', 1, { include: ['packages/{server,cli}/test/**/*.test.ts'], exclude: BUSY }),
      project('busy', 2, { include: BUSY, maxWorkers: 1 }),
    ],
  },
});
