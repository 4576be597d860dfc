import { createWriteStream } from 'node:fs';
import { pipeline } from 'node:stream/promises';
import { COLLECTIONS } from '@glenmark/contract';
import { KINDS } from '@glenmark/core/model';
import { ZipFile } from 'yazl';
import { hashOf } from '../store/hash.js';
import type { Store } from '../store/store.js';
import { FORMAT, MANIFEST, type Manifest } from './manifest.js';

/**
 * Writes every document with all its revisions, and what scoutings found, into a zip of plain files and a manifest. Each
 * document is as it is at one moment; one that is removed meanwhile is left out. Fails when a text is not what was saved.
 */
export async function writeBackup(store: Store, file: string, release: string): Promise<void> {
  const zip = new ZipFile();
  const written = pipeline(zip.outputStream, createWriteStream(file));
  // It is waited for at the end; what fails before is told first.
  written.catch(() => undefined);
  const manifest: Manifest = {
    glenmark: FORMAT,
    kind: 'backup',
    release,
    createdAt: new Date().toISOString(),
    documents: [],
    scoutings: [],
  };
  for (const kind of KINDS)
    for (const id of await store.ids(kind)) {
      const history = await store.history(kind, id);
      if (history.length === 0) continue;
      const revisions = history.map(({ number, parent, name, hash, message, label, createdAt, text }) => {
        if (hashOf(text) !== hash)
          throw new Error(`revision ${number} of the ${kind} '${id}' is not what was saved`);
        const file = `${COLLECTIONS[kind]}/${id}/${String(number).padStart(4, '0')}.yaml`;
        zip.addBuffer(Buffer.from(text), file, { mtime: createdAt });
        return { number, parent, name, hash, message, label, createdAt: createdAt.toISOString(), file };
      });
      manifest.documents.push({ kind, id, revisions });
    }
  for (const scouting of await store.scoutings()) {
    const [text, file] = [JSON.stringify(scouting), `scoutings/${scouting.id}.json`];
    zip.addBuffer(Buffer.from(text), file, { mtime: new Date(scouting.createdAt) });
    manifest.scoutings.push({ id: scouting.id, file, hash: hashOf(text) });
  }
  zip.addBuffer(Buffer.from(JSON.stringify(manifest, null, 1)), MANIFEST);
  zip.end();
  await written;
}
