import { basename, dirname, resolve, sep } from 'node:path';
import { slugOf } from '@glenmark/core/model';

/** A document as others refer to it: by its own name, or by that of its file. */
export interface NamedFile {
  file: string;
  name: string;
}

/** Whether a document is the one that another names. */
export function isNamed({ file, name }: NamedFile, wanted: string): boolean {
  const slug = slugOf(wanted);
  return slugOf(name) === slug || slugOf(stemOf(file)) === slug;
}

/**
 * The movesets that a tape is made for. Where several have the name that it gives, the nearest: the fewest folders away.
 */
export function ownersAmong<T extends NamedFile>(
  movesets: readonly T[],
  { file, moveset }: { file: string; moveset: string | undefined },
): T[] {
  if (moveset === undefined) return [];
  const all = movesets.filter((m) => isNamed(m, moveset));
  const own = foldersOf(file);
  const away = ({ file: other }: T): number => {
    const folders = foldersOf(other);
    const apart = folders.findIndex((folder, i) => folder !== own[i]);
    const shared = apart < 0 ? folders.length : apart;
    return folders.length + own.length - 2 * shared;
  };
  const nearest = Math.min(...all.map(away));
  return all.filter((m) => away(m) === nearest);
}

const foldersOf = (file: string): string[] => dirname(resolve(file)).split(sep);
const stemOf = (file: string): string => basename(file).replace(/\.\w+$/, '');
