import { mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { type Language, LANGUAGES, outlineOf, readmeOf } from '@glenmark/core/code';
import { loadMoveset, UnwritableError } from './load.js';

export interface CodeOptions {
  to: Language['id'];
  out?: string;
  rate?: number;
}

/** `glenmark code`: a moveset as source for a game, on standard output, or as a file in a folder with what to know of it. */
export function code(
  file: string,
  { to, out, rate }: CodeOptions,
): { output: string; warnings: string[]; exitCode: number } {
  const { machine, document, source, warnings } = loadMoveset(file, rate);
  const outline = outlineOf({ machine, file: document, source, diagnostics: [] });
  const language = languageOf(to);
  const text = language.print(outline);
  if (out === undefined) return { output: text.trimEnd(), warnings, exitCode: 0 };
  const name = language.file(outline);
  const written = [
    [name, text],
    [`${name}.md`, readmeOf(outline, language)],
  ] as const;
  try {
    mkdirSync(out, { recursive: true });
    for (const [each, content] of written) writeFileSync(join(out, each), content);
  } catch (error) {
    throw new UnwritableError(out, error as NodeJS.ErrnoException);
  }
  return { output: written.map(([each]) => join(out, each)).join('\n'), warnings, exitCode: 0 };
}

function languageOf(id: Language['id']): Language {
  const language = LANGUAGES.find((l) => l.id === id);
  if (language === undefined) throw new RangeError(`no language is called ${id}`);
  return language;
}
