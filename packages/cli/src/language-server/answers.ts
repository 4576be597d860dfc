import type { Finding, Repair } from '@glenmark/core/findings';
import {
  acceptance,
  findingsIn,
  foldsOf,
  formatted,
  helpAt,
  newNameFault,
  outlineOf,
  renamedIn,
  renamingFault,
  suggestionsAt,
} from '@glenmark/core/language';
import { type Occurrence, occurrenceAt } from '@glenmark/core/machine';
import { edit, placeAt } from '@glenmark/core/model';
import {
  type CodeAction,
  CodeActionKind,
  type CompletionItem,
  type DocumentSymbol,
  type FoldingRange,
  type Hover,
  type Location,
  LSPErrorCodes,
  type Position,
  type Range,
  ResponseError,
  type TextEdit,
  type WorkspaceEdit,
} from 'vscode-languageserver/node';
import { courseOf, type Desk, movesetOf, namesIn, type Sheet, tapesOf } from './desk.js';
import { diagnosticOf, editOf, editsTo, foldOf, itemOf, offsetsIn, rangeIn, symbolOf } from './places.js';

/** What each request of an editor is answered with, from what is on the desk. */

export function completion(desk: Desk, sheet: Sheet, at: Position): CompletionItem[] {
  const { text, latest } = sheet;
  // What is being written can seldom be read just then, and the names are those from before.
  const machine = movesetOf(desk, sheet)?.latest.known;
  const writing = { text: text.getText(), kind: latest.kind };
  return suggestionsAt(writing, machine, text.offsetAt(at)).map((suggestion, rank) =>
    itemOf(text, suggestion, rank),
  );
}

export function hover(
  desk: Desk,
  sheet: Sheet,
  at: Position,
  findingsOf: (moveset: Sheet) => readonly Finding[],
): Hover | null {
  const offset = sheet.text.offsetAt(at);
  const owner = movesetOf(desk, sheet);
  const moveset = owner?.document.moveset;
  const known = moveset && owner && { ...moveset, findings: findingsOf(owner) };
  const help = helpAt(sheet.document, known, occurrenceAt(namesIn(desk, sheet), offset), offset);
  return help === undefined
    ? null
    : {
        contents: { kind: 'markdown', value: [`**${help.title}**`, ...help.lines].join('\n\n') },
        range: rangeIn(sheet.text, help),
      };
}

/** A name, and all documents in which it stands: the moveset, and the tapes that are made for it. */
function named(desk: Desk, sheet: Sheet, at: Position): { name: Occurrence; sheets: Sheet[] } | undefined {
  const name = occurrenceAt(namesIn(desk, sheet), sheet.text.offsetAt(at));
  const owner = movesetOf(desk, sheet);
  return name === undefined || owner === undefined
    ? undefined
    : { name, sheets: [owner, ...tapesOf(desk, owner)] };
}

const locationsOf = (
  desk: Desk,
  sheets: readonly Sheet[],
  { kind, name }: Occurrence,
  isWanted: (use: Occurrence['use']) => boolean,
): Location[] =>
  sheets.flatMap((sheet) =>
    namesIn(desk, sheet)
      .filter((each) => each.kind === kind && each.name === name && isWanted(each.use))
      .map((each) => ({ uri: sheet.uri, range: rangeIn(sheet.text, each) })),
  );

/** Where a name is declared; an event, which nothing declares, where it is raised. */
export function definition(desk: Desk, sheet: Sheet, at: Position): Location[] {
  const found = named(desk, sheet, at);
  if (found === undefined) return documentNamed(desk, sheet, at);
  const use = found.name.kind === 'event' ? 'written' : 'declared';
  return locationsOf(desk, found.sheets, found.name, (each) => each === use);
}

/** The moveset or the course that a tape names at a place. */
function documentNamed(desk: Desk, sheet: Sheet, at: Position): Location[] {
  const { source, kind } = sheet.document;
  const place = source === undefined ? undefined : placeAt(source, sheet.text.offsetAt(at));
  if (kind !== 'tape' || place === undefined || place.isKey) return [];
  const path = place.path.join();
  const target =
    path === 'moveset' ? movesetOf(desk, sheet) : path === 'course' ? courseOf(desk, sheet) : undefined;
  return target === undefined ? [] : [{ uri: target.uri, range: rangeIn(target.text, { start: 0, end: 0 }) }];
}

export function references(desk: Desk, sheet: Sheet, at: Position, withDeclaration: boolean): Location[] {
  const found = named(desk, sheet, at);
  return found === undefined
    ? []
    : locationsOf(desk, found.sheets, found.name, (use) => withDeclaration || use !== 'declared');
}

const refused = (message: string): never => {
  throw new ResponseError(LSPErrorCodes.RequestFailed, message);
};

/** The name that would be changed at a place. */
export function renamable(
  desk: Desk,
  sheet: Sheet,
  at: Position,
): { range: Range; placeholder: string } | null {
  const found = named(desk, sheet, at);
  if (found === undefined) return null;
  const { kind, name } = found.name;
  const fault = renamingFault(kind, name);
  return fault === undefined ? { range: rangeIn(sheet.text, found.name), placeholder: name } : refused(fault);
}

/** Gives a thing another name, in its moveset and in the tapes that are made for that. */
export function rename(desk: Desk, sheet: Sheet, at: Position, to: string): WorkspaceEdit | null {
  const found = named(desk, sheet, at);
  if (found === undefined) return null;
  const { name, sheets } = found;
  const { document } = movesetOf(desk, sheet) ?? sheet;
  const fault =
    renamingFault(name.kind, name.name) ??
    (document.moveset && newNameFault(document.moveset.machine, name, to));
  if (fault !== undefined) return refused(fault);
  const changes = sheets.flatMap((each): [string, TextEdit[]][] => {
    const { source } = each.document;
    const splices = source === undefined ? [] : renamedIn(source, namesIn(desk, each), name, to);
    return splices.length === 0 ? [] : [[each.uri, splices.map((splice) => editOf(each.text, splice))]];
  });
  return { changes: Object.fromEntries(changes) };
}

export const symbols = ({ document: { source, kind }, text }: Sheet): DocumentSymbol[] =>
  source === undefined || kind === undefined
    ? []
    : outlineOf(source, kind).map((entry) => symbolOf(text, entry));

export const folds = ({ document }: Sheet): FoldingRange[] => foldsOf(document.text).map(foldOf);

export const formatting = ({ document, text }: Sheet): TextEdit[] =>
  editsTo(text, formatted(document.text, document.moveset?.machine));

/** What can be done about the findings in a range: the repairs that were tried, and to accept each. */
export function actions(
  { uri, text, document }: Sheet,
  range: Range,
  findings: readonly Finding[],
  repairsOf: (finding: Finding) => readonly Repair[],
): CodeAction[] {
  const { source, moveset } = document;
  if (source === undefined || moveset === undefined) return [];
  const asked = offsetsIn(text, range);
  return findingsIn(source, moveset.machine, findings)
    .filter(({ start, end }) => start <= asked.end && asked.start <= end)
    .flatMap(({ finding, ...trouble }) => {
      if (finding === undefined) return [];
      const repairs = repairsOf(finding);
      return [...repairs, acceptance(moveset.file, finding)].map(({ title, changes }, i): CodeAction => ({
        title,
        kind: CodeActionKind.QuickFix,
        diagnostics: [diagnosticOf(text, { ...trouble, finding })],
        ...(i === 0 && repairs.length > 0 ? { isPreferred: true } : {}),
        edit: { changes: { [uri]: editsTo(text, edit(document.text, changes, source)) } },
      }));
    });
}
