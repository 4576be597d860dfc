import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { kindOf, type Kind, KINDS, readFile, slugOf } from '@glenmark/core';
import type { RestoredSamples } from '@glenmark/contract';
import type { Store } from './store.js';

/** Loads the tide-mill samples, once in the life of a data folder, so that deleted ones stay deleted. */
export async function loadSamples(store: Store, folder: string): Promise<number> {
  if ((await store.setting('samples')) !== undefined) return 0;
  const samples = samplesIn(folder);
  for (const { kind, text } of samples) await store.create(kind, { text, message: 'Sample' });
  await store.setSetting('samples', 'loaded');
  return samples.length;
}

/** Brings back the samples that are gone; those that somebody changed stay as they are, and are named. */
export async function restoreSamples(store: Store, folder: string): Promise<RestoredSamples> {
  const restored: string[] = [];
  const changed: string[] = [];
  const there = new Map<string, string>();
  for (const kind of KINDS)
    for (const { id, name } of await store.list(kind))
      there.set(`${kind} ${slugOf(name)}`, (await store.read(kind, id)).text);
  for (const { kind, name, text } of samplesIn(folder)) {
    const present = there.get(`${kind} ${slugOf(name)}`);
    if (present === undefined) {
      await store.create(kind, { text, message: 'Sample' });
      restored.push(name);
    } else if (present !== text) changed.push(name);
  }
  return { restored, changed };
}

/** The samples, the one to start with last: the shelf shows the newest first. */
function samplesIn(folder: string): { kind: Kind; name: string; text: string }[] {
  const files = JSON.parse(readFileSync(join(folder, 'order.json'), 'utf8')) as string[];
  return files.reverse().map((file) => {
    const text = readFileSync(join(folder, file), 'utf8');
    const kind = kindOf(text)!;
    return { kind, name: readFile(kind, text).file!.name, text };
  });
}
