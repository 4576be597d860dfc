import { readFileSync } from 'node:fs';

/** The version of this release, as the project's own `package.json` says it. */
export const VERSION = (
  JSON.parse(readFileSync(new URL('../../../package.json', import.meta.url), 'utf8')) as { version: string }
).version;
