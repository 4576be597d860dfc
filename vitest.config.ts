import { defineConfig } from 'vitest/config';

/** One run for every package without a browser in it; the web application has its own runner (`npm run unit:web`). */
export default defineConfig({
  resolve: { conditions: ['source'] },
  ssr: { resolve: { conditions: ['source'] } },
  test: {
    include: ['packages/{core,contract,threads,server,cli}/test/**/*.test.ts'],
    testTimeout: 240_000,
    hookTimeout: 240_000,
  },
});
