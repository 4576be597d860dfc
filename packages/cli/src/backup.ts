import { existsSync, renameSync, rmSync } from 'node:fs';
import type { ImportedBackup } from '@glenmark/contract';
import type { Store } from '@glenmark/server';
import pino from 'pino';
import { UnreadableError, UnwritableError } from './load.js';

/** Where the documents are: as the server is told by its environment, unless an option says otherwise. */
export interface PlaceOptions {
  data?: string;
  database?: string;
}

interface Printed {
  output: string;
  exitCode: number;
}

export const isBackup = (file: string): boolean => /\.zip$/i.test(file);

/** `glenmark export FILE.zip`: every document with all its revisions, and what scoutings found, in a file. */
export async function exportBackup(file: string, options: PlaceOptions, release: string): Promise<Printed> {
  const { writeBackup, readBackup } = await import('@glenmark/server');
  return atPlace(options, release, async (store) => {
    // What stands under this name is replaced by a whole backup, or not at all.
    const part = `${file}.part`;
    try {
      await writeBackup(store, part, release).catch((error: unknown) => {
        throw new UnwritableError(file, error as NodeJS.ErrnoException);
      });
      const { histories, scoutings } = await readBackup(part);
      renameSync(part, file);
      const revisions = histories.reduce((sum, { length }) => sum + length, 0);
      return {
        output: `${file}: ${counted(histories.length, 'document')}, ${counted(revisions, 'revision')}, ${counted(scoutings.length, 'scouting')}; each was read again and is what was saved.`,
        exitCode: 0,
      };
    } finally {
      rmSync(part, { force: true });
    }
  });
}

/** `glenmark import FILE.zip`: adds all that is in a backup, or nothing. */
export async function importBackup(file: string, options: PlaceOptions, release: string): Promise<Printed> {
  const { readBackup } = await import('@glenmark/server');
  if (!existsSync(file)) throw new UnreadableError([`${file}: there is no such file`]);
  const { histories, scoutings } = await readBackup(file).catch((error: Error) => {
    throw new UnreadableError([`${file}: ${error.message}`]);
  });
  return atPlace(options, release, async (store) => {
    const { imported, scoutings: kept } = await store.addHistories(histories, scoutings);
    return {
      output: [...importedLines(imported), `Scoutings that were not here: ${kept.length}.`].join('\n'),
      exitCode: 0,
    };
  });
}

const counted = (n: number, word: string): string => `${n} ${word}${n === 1 ? '' : 's'}`;

const WORDS: Record<keyof ImportedBackup, string> = {
  added: 'Added',
  continued: 'Got the revisions that came after those here',
  known: 'Here already',
  beside: 'Went another way here, so put beside under an id of its own',
};

const importedLines = (imported: ImportedBackup): string[] =>
  Object.entries(imported).flatMap(([how, names]) =>
    names.length === 0 ? [] : [`${WORDS[how as keyof ImportedBackup]}: ${names.join(', ')}.`],
  );

/** Opens the documents at a place for a moment. A folder that a server has open is refused by what to do. */
async function atPlace<T>(
  { data, database }: PlaceOptions,
  release: string,
  use: (store: Store) => Promise<T>,
): Promise<T> {
  const server = await import('@glenmark/server');
  const env = {
    ...process.env,
    ...(database === undefined ? {} : { DATABASE_URL: database }),
    ...(data === undefined ? {} : { DATABASE_URL: '', GLENMARK_DATA: data }),
  };
  const open: (() => unknown)[] = [];
  const opened = async (): Promise<Store> => {
    const { place } = server.readConfig(env);
    if ('folder' in place) open.push(server.lockFolder(place.folder));
    const checker = server.createChecker();
    open.unshift(() => checker.close());
    const log = pino({ level: 'silent' });
    const { store } = await server.openStore(place, { release, check: checker.check, log });
    open.unshift(() => store.close());
    return store;
  };
  try {
    const store = await opened().catch((error: Error) => {
      throw new UnreadableError([error.message]);
    });
    return await use(store);
  } catch (error) {
    if (error instanceof server.ProblemError) throw new UnreadableError([error.message]);
    throw error;
  } finally {
    for (const close of open) await close();
  }
}
