import { defineConfig } from 'vitest/config';

/**
 * One run for every package without a browser in it; the web application has its own runner (`npm run unit:web`). The
 * core's tests compute, each on one processor, and two files run beside each other; those of the others start servers,
 * threads and processes that need both, and follow one by one.
 */
const project = (name: string, packages: string, maxWorkers: number, groupOrder: number) => ({
  extends: true as const,
  test: {
    name,
    include: [`packages/${packages}/test/**/*.test.ts`],
    maxWorkers,
    sequence: { groupOrder },
  },
});

export default defineConfig({
  resolve: { conditions: ['source'] },
  ssr: { resolve: { conditions: ['source'] } },
  test: {
    testTimeout: 240_000,
    hookTimeout: 240_000,
    projects: [project('core', '{core,contract}', 2, 0), project('processes', '{threads,server,cli}', 1, 1)],
  },
});
