import { closeSync, mkdirSync, openSync } from 'node:fs';
import { join } from 'node:path';
import { tryLock } from 'fs-native-extensions';

/**
 * Makes this process the one owner of a data folder: two servers on one embedded database would destroy it. The lock is
 * the kernel's, on an open file: it ends with the process however that dies, and holds across containers and symbolic
 * links, where a process number would lie. Returns what gives the folder back.
 */
export function lockFolder(folder: string): () => void {
  mkdirSync(folder, { recursive: true });
  const file = openSync(join(folder, 'owner.lock'), 'a');
  if (!tryLock(file)) {
    closeSync(file);
    throw new Error(
      `the data folder ${folder} is in use by another Glenmark server; stop that one, or set GLENMARK_DATA to another folder`,
    );
  }
  return () => closeSync(file);
}
