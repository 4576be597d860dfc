import { createReadStream, mkdirSync, readdirSync, rmSync } from 'node:fs';
import { type FileHandle, open, rename } from 'node:fs/promises';
import { join } from 'node:path';
import { crc32 } from 'node:zlib';
import type { Entry } from './entries.js';
import { syncFolder } from './synced-files.js';

/**
 * The second copy of the data, beside the database: lines of JSON, each with a checksum, on the disk before a save is
 * acknowledged. A generation is a snapshot (all that was there when it was made) and the journal of what came since; the
 * journal begins before its snapshot is written, so that between them nothing can be missing.
 */

/** One acknowledged change; numbers go up by one. */
export interface Line {
  n: number;
  entries: Entry[];
}

/** The first line of a snapshot, its lines between, and its last line, without which it is not whole. */
type SnapshotLine = { snapshot: number; after: number } | { entries: Entry[] } | { end: number };

export interface Journal {
  generation: number;
  /** Bytes in the journal of this generation. */
  bytes(): number;
  /** Appends lines; resolves when they are on the disk. After an error the journal is as it was before. */
  append(lines: readonly Line[]): Promise<void>;
  close(): Promise<void>;
}

const SNAPSHOT = /^snapshot-(\d+)\.jsonl$/;
const JOURNAL = /^journal-(\d+)\.jsonl$/;

const snapshotFile = (folder: string, generation: number): string =>
  join(folder, `snapshot-${generation}.jsonl`);
const journalFile = (folder: string, generation: number): string =>
  join(folder, `journal-${generation}.jsonl`);

const toLine = (value: unknown): string => {
  const json = JSON.stringify(value);
  return `${crc32(json).toString(16).padStart(8, '0')} ${json}\n`;
};

/** The value of a line, or undefined when its checksum is wrong. */
function fromLine(line: string): unknown {
  const json = line.slice(9);
  return line.slice(0, 9) === `${crc32(json).toString(16).padStart(8, '0')} ` ? JSON.parse(json) : undefined;
}

const numbersOf = (folder: string, pattern: RegExp): number[] =>
  readdirSync(folder)
    .flatMap((name) => pattern.exec(name)?.[1] ?? [])
    .map(Number)
    .sort((a, b) => a - b);

/** The newest generation in a folder; 0 when there is none. */
export function newestGeneration(folder: string): number {
  mkdirSync(folder, { recursive: true });
  return Math.max(0, ...numbersOf(folder, JOURNAL), ...numbersOf(folder, SNAPSHOT));
}

/** Opens the journal of a generation for appending; it is made when it is not there. */
export async function openJournal(folder: string, generation: number): Promise<Journal> {
  mkdirSync(folder, { recursive: true });
  const file: FileHandle = await open(journalFile(folder, generation), 'a+');
  syncFolder(folder);
  let size = (await file.stat()).size;
  // A line that was cut by a power failure was never acknowledged; the next one must not be joined to it.
  const last = Buffer.alloc(1);
  if (size > 0) await file.read(last, 0, 1, size - 1);
  if (size > 0 && last.toString() !== '\n') {
    await file.appendFile('\n');
    size += 1;
  }
  return {
    generation,
    bytes: () => size,
    async append(lines) {
      const bytes = Buffer.from(lines.map(toLine).join(''));
      try {
        await file.appendFile(bytes);
        await file.datasync();
        size += bytes.length;
      } catch (error) {
        await file.truncate(size).catch(() => undefined);
        throw error;
      }
    },
    close: () => file.close(),
  };
}

/**
 * Writes the snapshot of a generation whose journal has begun, then removes older generations.
 * `after` is the number of the last line before that journal. Gives the bytes of the snapshot.
 */
export async function writeSnapshot(
  folder: string,
  generation: number,
  after: number,
  entries: AsyncIterable<Entry>,
): Promise<number> {
  const target = snapshotFile(folder, generation);
  const file = await open(`${target}.new`, 'w');
  let bytes: number;
  try {
    const put = (line: SnapshotLine) => file.appendFile(toLine(line));
    let count = 0;
    await put({ snapshot: generation, after });
    for await (const entry of entries) {
      await put({ entries: [entry] });
      count++;
    }
    await put({ end: count });
    await file.datasync();
    bytes = (await file.stat()).size;
  } catch (error) {
    rmSync(`${target}.new`, { force: true });
    throw error;
  } finally {
    await file.close();
  }
  await rename(`${target}.new`, target);
  syncFolder(folder);
  for (const older of numbersOf(folder, SNAPSHOT).filter((g) => g < generation))
    rmSync(snapshotFile(folder, older), { force: true });
  for (const older of numbersOf(folder, JOURNAL).filter((g) => g < generation))
    rmSync(journalFile(folder, older), { force: true });
  return bytes;
}

/** What the second copy says, as far as it can be read. */
export interface SecondCopy {
  /** False when there is none. */
  exists: boolean;
  /** Changes that it holds: with none there is nothing to rebuild from. */
  entries: number;
  /** Lines that are there and cannot be read, or are missing between others. */
  damaged: number;
  /** The number of the line that the snapshot has got to. */
  after: number;
  /** The number of the last line. */
  last: number;
}

/**
 * Reads the second copy from its beginning. `see` gets the entries in their order, those of the snapshot with number 0;
 * it may be waited for.
 */
export async function readSecondCopy(
  folder: string,
  see: (entries: Entry[], n: number) => void | Promise<void>,
): Promise<SecondCopy> {
  newestGeneration(folder);
  const snapshots = numbersOf(folder, SNAPSHOT);
  const first = snapshots.at(-1);
  const journals = numbersOf(folder, JOURNAL).filter((g) => g >= (first ?? 0));
  const copy: SecondCopy = {
    exists: first !== undefined || journals.length > 0,
    entries: 0,
    damaged: 0,
    after: 0,
    last: 0,
  };
  if (first !== undefined) await readSnapshot(snapshotFile(folder, first), copy, see);
  // Without its snapshot a later generation lacks what came before it.
  else if (journals.length > 0 && journals[0]! > 1) copy.damaged++;
  for (const generation of journals) {
    for await (const text of linesOf(journalFile(folder, generation))) {
      // A line that cannot be read was cut by a power failure and never acknowledged, unless the numbers skip one.
      const line = fromLine(text) as Line | undefined;
      if (line === undefined || line.n <= copy.last) continue;
      copy.damaged += line.n - copy.last - 1;
      copy.last = line.n;
      copy.entries += line.entries.length;
      await see(line.entries, line.n);
    }
  }
  return copy;
}

async function readSnapshot(
  file: string,
  copy: SecondCopy,
  see: (entries: Entry[], n: number) => void | Promise<void>,
): Promise<void> {
  let count = 0;
  let end: number | undefined;
  for await (const text of linesOf(file)) {
    const line = fromLine(text) as SnapshotLine | undefined;
    if (line === undefined) continue;
    if ('snapshot' in line) copy.after = copy.last = line.after;
    else if ('end' in line) end = line.end;
    else {
      count++;
      copy.entries += line.entries.length;
      await see(line.entries, 0);
    }
  }
  copy.damaged += end === undefined ? 1 : Math.max(0, end - count);
}

/** The lines of a file, split at line feeds alone: texts may hold other characters that end lines elsewhere. */
async function* linesOf(file: string): AsyncGenerator<string> {
  let parts: Buffer[] = [];
  for await (const chunk of createReadStream(file) as AsyncIterable<Buffer>) {
    let from = 0;
    for (let at = chunk.indexOf(10); at >= 0; at = chunk.indexOf(10, from)) {
      parts.push(chunk.subarray(from, at));
      yield Buffer.concat(parts).toString('utf8');
      parts = [];
      from = at + 1;
    }
    if (from < chunk.length) parts.push(chunk.subarray(from));
  }
  if (parts.length > 0) yield Buffer.concat(parts).toString('utf8');
}
