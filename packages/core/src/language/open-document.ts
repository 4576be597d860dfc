import { type Machine, readMoveset } from '../machine/index.js';
import {
  type Diagnostic,
  type Kind,
  kindOf,
  type MovesetFile,
  parseSource,
  readFile,
  type Source,
} from '../model/index.js';
import { readTape, type Tape } from '../run/index.js';
import { readCourse } from '../world/index.js';

/** A document while somebody writes it: often broken, and then what it last meant helps to go on. */
export interface OpenDocument {
  text: string;
  /** What it says it is, or last said; undefined for what never was one of ours. */
  kind: Kind | undefined;
  /** Undefined while it is not readable as YAML. */
  source: Source | undefined;
  /** What is wrong with it by itself, at its places. */
  diagnostics: Diagnostic[];
  /** Its own name; undefined while that cannot be read. */
  name: string | undefined;
  moveset: { machine: Machine; file: MovesetFile } | undefined;
  tape: { tape: Tape; moveset: string | undefined } | undefined;
  /** The last machine that it made, for the names that it has. */
  known: Machine | undefined;
}

/** Reads a document anew; `before` is the same document as it was before the last change. */
export function openDocument(text: string, before?: OpenDocument): OpenDocument {
  const kind = kindByLook(text) ?? kindOf(text) ?? before?.kind;
  const parsed = { text, kind, name: undefined, moveset: undefined, tape: undefined, known: before?.known };
  if (kind === undefined) {
    const { source, diagnostics } = parseSource(text);
    return { ...parsed, source, diagnostics };
  }
  if (kind === 'moveset') {
    const { machine, file, source, diagnostics } = readMoveset(text);
    const moveset = machine === undefined || file === undefined ? undefined : { machine, file };
    const known = machine ?? before?.known;
    return { ...parsed, source, diagnostics, name: file?.name, moveset, known };
  }
  if (kind === 'course') {
    const { source, file } = readFile('course', text);
    return { ...parsed, source, diagnostics: readCourse(text).diagnostics, name: file?.name };
  }
  const { tape, file, diagnostics } = readTape(text);
  const { source } = tape ?? readFile('tape', text);
  const read = tape === undefined ? undefined : { tape, moveset: file?.moveset };
  return { ...parsed, source, diagnostics, name: file?.name, tape: read };
}

/** The kind by the line that says it, as nearly every document has it: to read all of one takes as long as the rest. */
function kindByLook(text: string): Kind | undefined {
  const match = /^(?:kind| *"kind") *: *"?(moveset|course|tape)\b/m.exec(text);
  return match === null ? undefined : (match[1] as Kind);
}
