import { crc32 } from 'node:zlib';
import { type Scouting, scoutingSchema, storableSchema } from '@glenmark/contract';
import { MAX_TEXT } from '@glenmark/core/model';
import { type Entry, openPromise, type ZipFile } from 'yauzl';
import type * as z from 'zod';
import { ProblemError } from '../problem.js';
import { hashOf } from '../store/hash.js';
import type { History } from '../store/histories.js';
import { MANIFEST, type Manifest, manifestSchema } from './manifest.js';

/** Most that a backup may hold, unpacked (bytes), and most of its list and of a scouting. */
const MAX_TOTAL = 512 * 2 ** 20;
const MAX_LIST = 128 * 2 ** 20;
const MAX_SCOUTING = 32 * 2 ** 20;
/** Most bytes of a text: four for a character. */
const MAX_BYTES = 4 * MAX_TEXT;

/** What a backup holds. */
export interface Backup {
  histories: History[];
  scoutings: Scouting[];
}

const refused = (detail: string): ProblemError =>
  new ProblemError(422, `Nothing was imported: ${detail}.`, {
    type: 'urn:glenmark:problem:unreadable-backup',
    title: 'The backup cannot be read',
  });

/**
 * Reads a backup whole, and checks it: that each file is there and is what was exported, by its hash, and that each
 * document has all of its revisions. Throws a problem that names the file that is wrong.
 */
export async function readBackup(path: string): Promise<Backup> {
  const zip = await openPromise(path, { lazyEntries: true, autoClose: false }).catch((error: unknown) => {
    throw refused(`this is no zip file (${reasonOf(error)})`);
  });
  try {
    const entries = await entriesOf(zip);
    const manifest = parsed(manifestSchema, await textOf(zip, entries, MANIFEST, MAX_LIST), MANIFEST);
    const text = async (file: string, hash: string, limit: number): Promise<string> => {
      const found = await textOf(zip, entries, file, limit);
      if (hashOf(found) !== hash)
        throw refused(`${file} is not what was exported: its SHA-256 is ${hashOf(found)}, expected ${hash}`);
      return found;
    };
    const histories: History[] = [];
    for (const document of manifest.documents) histories.push(await historyOf(document, text));
    const scoutings: Scouting[] = [];
    for (const { file, hash } of manifest.scoutings)
      scoutings.push(parsed(scoutingSchema, await text(file, hash, MAX_SCOUTING), file));
    return { histories, scoutings };
  } finally {
    zip.close();
  }
}

async function historyOf(
  { kind, id, revisions }: Manifest['documents'][number],
  text: (file: string, hash: string, limit: number) => Promise<string>,
): Promise<History> {
  const rows: History = [];
  for (const { file, createdAt, ...rest } of revisions) {
    const found = await text(file, rest.hash, MAX_BYTES);
    if (found.length > MAX_TEXT)
      throw refused(`${file} has ${found.length} characters, expected at most ${MAX_TEXT}`);
    const storable = storableSchema.safeParse(found);
    if (!storable.success) throw refused(`${file}: ${storable.error.issues[0]!.message}`);
    rows.push({ kind, id, ...rest, text: found, createdAt: new Date(createdAt) });
  }
  return rows;
}

/** The files of a zip by their names; refused when together they are larger than a backup may be. */
async function entriesOf(zip: ZipFile): Promise<Map<string, Entry>> {
  const entries = new Map<string, Entry>();
  let total = 0;
  try {
    for await (const entry of zip.eachEntry()) {
      entries.set(entry.fileName, entry);
      total += entry.uncompressedSize;
      if (total > MAX_TOTAL) break;
    }
  } catch (error) {
    throw refused(`the zip file is damaged (${reasonOf(error)})`);
  }
  if (total > MAX_TOTAL)
    throw refused(`unpacked it is larger than ${MAX_TOTAL / 2 ** 20} MB, the most that a backup may be`);
  return entries;
}

/** The text of a file. Sizes that the zip tells are kept to while it is unpacked, so none can be larger than it says. */
async function textOf(
  zip: ZipFile,
  entries: Map<string, Entry>,
  file: string,
  limit: number,
): Promise<string> {
  const entry = entries.get(file);
  if (entry === undefined)
    throw refused(
      file === MANIFEST ? `the zip has no ${MANIFEST}: it is no backup of Glenmark` : `${file} is missing`,
    );
  if (entry.uncompressedSize > limit)
    throw refused(`${file} has ${entry.uncompressedSize} bytes, expected at most ${limit}`);
  const parts: Buffer[] = [];
  try {
    for await (const part of await zip.openReadStreamPromise(entry)) parts.push(part as Buffer);
  } catch (error) {
    throw refused(`${file} is damaged (${reasonOf(error)})`);
  }
  const bytes = Buffer.concat(parts);
  if (crc32(bytes) !== entry.crc32) throw refused(`${file} is damaged: its checksum is another one`);
  try {
    return new TextDecoder('utf-8', { fatal: true, ignoreBOM: true }).decode(bytes);
  } catch {
    throw refused(`${file} is no text in UTF-8`);
  }
}

function parsed<T extends z.ZodType>(schema: T, text: string, file: string): z.output<T> {
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch (error) {
    throw refused(`${file} is no JSON (${reasonOf(error)})`);
  }
  const result = schema.safeParse(value);
  if (result.success) return result.data;
  const { path, message } = result.error.issues[0]!;
  throw refused(`${file}, ${path.join('.') || 'as a whole'}: ${message}`);
}

const reasonOf = (error: unknown): string => (error instanceof Error ? error.message : String(error));
