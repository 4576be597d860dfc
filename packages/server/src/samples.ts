import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { kindOf, type Kind, KINDS, readFile, slugOf } from '@glenmark/core/model';
import type { RestoredSamples } from '@glenmark/contract';
import type { Store } from './store/store.js';

/** Loads the tide-mill samples, once in the life of a database, so that deleted ones stay deleted. */
export async function loadSamples(store: Store, folder: string): Promise<void> {
  // Reading them takes a while: that is spared at every start but the first.
  if ((await store.setting('samples')) !== undefined) return;
  await store.createAll(samplesIn(folder).map(asDraft), { setting: 'samples', becomes: 'loaded' });
}

/** More documents than any shelf has. */
const ALL = 1_000_000;

/** Restores the samples that are missing; those that somebody changed stay as they are, and are named. */
export async function restoreSamples(store: Store, folder: string): Promise<RestoredSamples> {
  const changed: string[] = [];
  const missing: Sample[] = [];
  const there = new Map<string, string>();
  for (const kind of KINDS)
    for (const { id, name } of (await store.list(kind, { limit: ALL })).items)
      there.set(`${kind} ${slugOf(name)}`, (await store.read(kind, id)).text);
  for (const sample of samplesIn(folder)) {
    const present = there.get(`${sample.kind} ${slugOf(sample.name)}`);
    if (present === undefined) missing.push(sample);
    else if (present !== sample.text) changed.push(sample.name);
  }
  await store.createAll(missing.map(asDraft));
  return { restored: missing.map((s) => s.name), changed };
}

interface Sample {
  kind: Kind;
  name: string;
  text: string;
}

const asDraft = ({ kind, text }: Sample) => ({ kind, draft: { text, message: 'Sample' } });

/** The samples, the one to start with last: the shelf shows the newest first. */
function samplesIn(folder: string): Sample[] {
  const files = JSON.parse(readFileSync(join(folder, 'order.json'), 'utf8')) as string[];
  return files.reverse().map((file) => {
    const text = readFileSync(join(folder, file), 'utf8');
    const kind = kindOf(text)!;
    return { kind, name: readFile(kind, text).file!.name, text };
  });
}
