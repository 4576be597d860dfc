import { createWriteStream } from 'node:fs';
import { mkdtemp, open, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Transform } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import type { ImportedBackup } from '@glenmark/contract';
import type { Context } from 'koa';
import { readBackup } from '../backup/read-backup.js';
import { writeBackup } from '../backup/write-backup.js';
import { ProblemError } from '../problem.js';
import type { Served } from './routes.js';

/** Most bytes of a backup that a request may send; the command line takes larger ones. */
const MAX_UPLOAD = 256 * 2 ** 20;

/** Sends a backup of everything; it is written whole before the first of it goes out, so that none is cut short. */
export async function sendBackup(ctx: Context, { store, version }: Served): Promise<unknown> {
  const folder = await mkdtemp(join(tmpdir(), 'glenmark-backup-'));
  try {
    const file = join(folder, 'backup.zip');
    await writeBackup(store, file, version);
    ctx.attachment(`glenmark-${new Date().toISOString().slice(0, 10)}.zip`);
    ctx.compress = false;
    // Open, it can be read although its name is gone: nothing is left behind, whoever goes away meanwhile.
    return (await open(file)).createReadStream();
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}

/** Adds all of the backup that a request sends, or nothing. */
export async function takeBackup(ctx: Context, { store, scoutings }: Served): Promise<ImportedBackup> {
  if (!ctx.is('application/zip')) throw new ProblemError(415, 'Expected a backup, of type application/zip.');
  const folder = await mkdtemp(join(tmpdir(), 'glenmark-backup-'));
  try {
    const file = join(folder, 'backup.zip');
    await pipeline(ctx.req, limited(MAX_UPLOAD), createWriteStream(file));
    const { histories, scoutings: found } = await readBackup(file);
    const added = await store.addHistories(histories, found);
    scoutings.takeIn(added.scoutings);
    return added.imported;
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}

/** Lets so many bytes through, and fails with the next one. */
function limited(most: number): Transform {
  let count = 0;
  return new Transform({
    transform(chunk: Buffer, _, done) {
      count += chunk.length;
      if (count > most)
        done(
          new ProblemError(
            413,
            `Nothing was imported: the backup is larger than the limit of ${most} bytes.`,
          ),
        );
      else done(null, chunk);
    },
  });
}
