import { readFileSync, statSync } from 'node:fs';
import { fileURLToPath, pathToFileURL } from 'node:url';
import { MAX_TEXT, withoutMark } from '@glenmark/core/model';
import { glob } from 'tinyglobby';
import { TextDocument } from 'vscode-languageserver-textdocument';

/** How much of a file must say that it is one of ours. */
const HEAD = 4000;

/** A file as a document; undefined for one that is gone, too large, or none of ours. */
export function documentAt(file: string): TextDocument | undefined {
  try {
    const stats = statSync(file);
    if (!stats.isFile() || stats.size > MAX_TEXT) return undefined;
    const text = withoutMark(readFileSync(file, 'utf8'));
    if (!/^\s*["{]?\s*"?glenmark"?\s*:/m.test(text.slice(0, HEAD))) return undefined;
    return TextDocument.create(pathToFileURL(file).href, 'yaml', 0, text);
  } catch {
    // A file that cannot be read is as good as none: nobody asked for it by name.
    return undefined;
  }
}

/** The files below some folders that may be documents, in the order of their names. */
export async function filesIn(folders: readonly string[]): Promise<string[]> {
  const found = await Promise.all(
    folders
      .filter((uri) => uri.startsWith('file:'))
      .map((uri) =>
        glob('**/*.{yaml,yml,json}', {
          cwd: fileURLToPath(uri),
          absolute: true,
          expandDirectories: false,
          ignore: ['**/node_modules/**'],
        }),
      ),
  );
  return [...new Set(found.flat())].sort();
}
