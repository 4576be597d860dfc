// Part of the build: an empty database, which a first start copies instead of making one.
import { makeEmptyDatabase } from '../packages/server/dist/store/database.js';

await makeEmptyDatabase();
