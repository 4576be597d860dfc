import { defineConfig } from 'drizzle-kit';

/** `npm run migration -w @glenmark/server` writes what changed in `src/schema.ts` as a new file under `migrations/`. */
export default defineConfig({ dialect: 'postgresql', schema: './src/store/schema.ts', out: './migrations' });
