import type { StoredDocument } from '@glenmark/contract';
import { readFile, slugOf } from '@glenmark/core/model';

/** A document as the shelf lists it: what it says of itself, and where a click on it leads. */
export interface Item {
  document: StoredDocument;
  note: string;
  link: { path: unknown[]; query: Record<string, string> } | undefined;
}

/** The item of a document; a tape for no moveset leads nowhere. */
export function itemOf(document: StoredDocument): Item {
  const { kind, id, text } = document;
  if (kind === 'tape') {
    const moveset = readFile('tape', text).file?.moveset;
    return {
      document,
      note: moveset === undefined ? $localize`for any moveset` : $localize`for ${moveset}`,
      link:
        moveset === undefined
          ? undefined
          : { path: ['/moveset', slugOf(moveset), 'run'], query: { tape: id } },
    };
  }
  return {
    document,
    note: readFile(kind, text).file?.note ?? '',
    link: { path: kind === 'course' ? ['/course', id] : ['/moveset', id, 'model'], query: {} },
  };
}
