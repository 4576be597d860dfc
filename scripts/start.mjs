// `npm start`: installs and builds if needed, then becomes the server (same process, so signals reach it).
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { buildIfNeeded, installIfNeeded, root } from './build.mjs';

installIfNeeded();
buildIfNeeded('node');
buildIfNeeded('web');
await import(pathToFileURL(join(root, 'packages/server/dist/main.js')).href);
