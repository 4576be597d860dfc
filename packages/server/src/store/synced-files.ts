import { fdatasyncSync, fsyncSync, openSync, closeSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import { NodeFS } from '@electric-sql/pglite/nodefs';

/** The part of Emscripten's file layer that is extended here. */
interface FileLayer {
  NODEFS?: { stream_ops: { fsync?: (stream: { nfd: number }) => number } };
}

type Init = NodeFS['init'];

/**
 * The files of an embedded PostgreSQL in a folder, really synced. PGlite's own file layer has no `fsync`, so that whatever
 * PostgreSQL asks for is answered without doing it; here it is done, and a commit is on the disk when it is acknowledged.
 */
export class SyncedFiles extends NodeFS {
  override async init(...[pg, options]: Parameters<Init>): ReturnType<Init> {
    const { emscriptenOpts } = await super.init(pg, options);
    const addSync = (module: object): void => {
      const layer = (module as FileLayer).NODEFS;
      if (layer === undefined) throw new Error('this PGlite has no file layer that can be synced');
      layer.stream_ops.fsync = ({ nfd }) => {
        fsyncSync(nfd);
        return 0;
      };
    };
    return { emscriptenOpts: { ...emscriptenOpts, preRun: [...(emscriptenOpts.preRun ?? []), addSync] } };
  }
}

/** Brings the names in a folder, such as that of a renamed file, to the disk. */
export function syncFolder(folder: string): void {
  const handle = openSync(folder, 'r');
  try {
    fsyncSync(handle);
  } finally {
    closeSync(handle);
  }
}

/** Brings a folder with all that is in it to the disk. */
export function syncTree(folder: string): void {
  for (const entry of readdirSync(folder, { withFileTypes: true })) {
    const path = join(folder, entry.name);
    if (entry.isDirectory()) syncTree(path);
    else if (entry.isFile()) {
      const handle = openSync(path, 'r');
      try {
        fdatasyncSync(handle);
      } finally {
        closeSync(handle);
      }
    }
  }
  syncFolder(folder);
}
