import { fileURLToPath } from 'node:url';
import { openDocument, type OpenDocument } from '@glenmark/core/language';
import { type Machine, type Occurrence, occurrencesIn, usesIn } from '@glenmark/core/machine';
import { tapeReferences } from '@glenmark/core/run';
import type { TextDocument } from 'vscode-languageserver-textdocument';
import { isNamed, ownersAmong } from '../matching.js';

/** A document of the workspace: as the editor has it while it is open there, else as it is on the disk. */
export interface Sheet {
  readonly uri: string;
  readonly file: string;
  readonly isOpen: boolean;
  readonly text: TextDocument;
  /** What the text means now. It is read when somebody asks: between two letters nobody may. */
  readonly document: OpenDocument;
  /** What it meant when it was last read, for those who cannot wait. */
  readonly latest: OpenDocument;
  readonly name: string;
}

/** All documents that are known, by their URI. */
export interface Desk {
  /** Puts a document there as it now is. What the editor has open is not replaced by what is on the disk. */
  put(text: TextDocument, isOpen: boolean): Sheet;
  remove(uri: string): void;
  get(uri: string): Sheet | undefined;
  all(): Sheet[];
}

export function createDesk(): Desk {
  const sheets = new Map<string, Sheet>();
  return {
    put(text, isOpen) {
      const before = sheets.get(text.uri);
      if (before?.isOpen === true && !isOpen) return before;
      const sheet = createSheet(text, isOpen, before?.latest);
      sheets.set(text.uri, sheet);
      return sheet;
    },
    remove: (uri) => void sheets.delete(uri),
    get: (uri) => sheets.get(uri),
    all: () => [...sheets.values()],
  };
}

function createSheet(text: TextDocument, isOpen: boolean, before: OpenDocument | undefined): Sheet {
  // The editor changes its documents in place.
  const now = text.getText();
  let read: OpenDocument | undefined;
  return {
    uri: text.uri,
    file: fileOf(text.uri),
    isOpen,
    text,
    get document() {
      return (read ??= openDocument(now, before));
    },
    get latest() {
      return read ?? before ?? this.document;
    },
    get name() {
      return this.document.name ?? '';
    },
  };
}

/** The path of a document, or what stands for it when it is not on a disk. */
const fileOf = (uri: string): string => (uri.startsWith('file:') ? fileURLToPath(uri) : uri);

const ofKind = (desk: Desk, kind: OpenDocument['kind']): Sheet[] =>
  desk.all().filter(({ latest }) => latest.kind === kind);

/** The moveset that a document is about: itself, or the one that a tape is made for. */
export function movesetOf(desk: Desk, sheet: Sheet): Sheet | undefined {
  if (sheet.latest.kind === 'moveset') return sheet;
  const { tape } = sheet.document;
  if (tape === undefined) return undefined;
  return ownersAmong(ofKind(desk, 'moveset'), { file: sheet.file, moveset: tape.moveset })[0];
}

/** The tapes that are made for a moveset. */
export const tapesOf = (desk: Desk, moveset: Sheet): Sheet[] =>
  ofKind(desk, 'tape').filter((tape) => movesetOf(desk, tape) === moveset);

/** The course that a tape runs on. */
export const courseOf = (desk: Desk, { document: { tape } }: Sheet): Sheet | undefined =>
  tape && ofKind(desk, 'course').find((course) => isNamed(course, tape.tape.course));

/** The names in a document, once for each state of it. */
const known = new WeakMap<OpenDocument, { machine: Machine; occurrences: Occurrence[] }>();

/** The names of a moveset that stand in a document, with their places; none while it cannot be read. */
export function namesIn(desk: Desk, sheet: Sheet): Occurrence[] {
  const machine = movesetOf(desk, sheet)?.document.moveset?.machine;
  const { document } = sheet;
  const { source, tape } = document;
  if (machine === undefined || source === undefined) return [];
  const before = known.get(document);
  if (before?.machine === machine) return before.occurrences;
  const occurrences =
    tape === undefined ? occurrencesIn(source, machine) : usesIn(source, tapeReferences(tape.tape, machine));
  known.set(document, { machine, occurrences });
  return occurrences;
}
