import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { kindOf } from '@glenmark/core';
import type { Store } from './store.js';

/** Loads the tide-mill samples, once in the life of a data folder, so that deleted ones stay deleted. */
export async function loadSamples(store: Store, folder: string): Promise<number> {
  if ((await store.setting('samples')) !== undefined) return 0;
  const files = JSON.parse(readFileSync(join(folder, 'order.json'), 'utf8')) as string[];
  // Newest first on the shelf, so the one to start with is loaded last.
  for (const file of [...files].reverse()) {
    const text = readFileSync(join(folder, file), 'utf8');
    await store.create(kindOf(text)!, { text, message: 'Sample' });
  }
  await store.setSetting('samples', 'loaded');
  return files.length;
}
