// Part of the build: an empty database, which a first start copies instead of making one. Made by another release of PGlite
// it is made anew.
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { EMPTY, makeEmptyDatabase } from '../packages/server/dist/store/database.js';
import { root } from './build.mjs';

const pglite = join(root, 'node_modules/@electric-sql/pglite/package.json');
const { version } = JSON.parse(readFileSync(pglite, 'utf8'));
const stamp = `${EMPTY}.version`;
if (!existsSync(EMPTY) || !existsSync(stamp) || readFileSync(stamp, 'utf8') !== version) {
  await makeEmptyDatabase();
  writeFileSync(stamp, version);
}
