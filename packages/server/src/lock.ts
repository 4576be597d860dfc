import { mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';

/**
 * Keeps a data folder to one server: two on the same embedded database would destroy it. Returns what gives it back.
 * A lock whose process is gone (a crash, a kill) is taken over.
 */
export function lockFolder(folder: string): () => void {
  mkdirSync(folder, { recursive: true });
  const file = join(folder, 'server.pid');
  try {
    writeFileSync(file, String(process.pid), { flag: 'wx' });
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code !== 'EEXIST') throw error;
    const owner = Number(readFileSync(file, 'utf8'));
    if (isAlive(owner))
      throw new Error(
        `another Glenmark server (process ${owner}) uses the data folder ${folder}; stop it, or set GLENMARK_DATA to another folder`,
        { cause: error },
      );
    writeFileSync(file, String(process.pid));
  }
  return () => rmSync(file, { force: true });
}

function isAlive(pid: number): boolean {
  if (!Number.isInteger(pid) || pid <= 0 || pid === process.pid) return false;
  try {
    process.kill(pid, 0);
    return true;
  } catch (error) {
    return (error as NodeJS.ErrnoException).code === 'EPERM';
  }
}
