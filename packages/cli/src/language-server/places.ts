import type { Entry, Fold, Suggestion, Trouble } from '@glenmark/core/language';
import type { Splice, Stretch } from '@glenmark/core/model';
import { diffLines } from 'diff';
import {
  type CompletionItem,
  CompletionItemKind,
  type Diagnostic,
  DiagnosticSeverity,
  type DocumentSymbol,
  type FoldingRange,
  FoldingRangeKind,
  type Range,
  SymbolKind,
  type TextEdit,
} from 'vscode-languageserver/node';
import type { TextDocument } from 'vscode-languageserver-textdocument';

/** What the core says in offsets, as the protocol says it in lines. */

export const rangeIn = (text: TextDocument, { start, end }: Stretch): Range => ({
  start: text.positionAt(start),
  end: text.positionAt(end),
});

export const offsetsIn = (text: TextDocument, { start, end }: Range): Stretch => ({
  start: text.offsetAt(start),
  end: text.offsetAt(end),
});

export const editOf = (text: TextDocument, splice: Splice): TextEdit => ({
  range: rangeIn(text, splice),
  newText: splice.text,
});

/** What makes one text of another, line by line, so that the rest of it keeps its marks and carets. */
export function editsTo(text: TextDocument, after: string): TextEdit[] {
  const splices: Splice[] = [];
  let at = 0;
  for (const { added, removed, value } of diffLines(text.getText(), after)) {
    const last = splices.at(-1);
    if (added) {
      if (last?.end === at && last.text === '') last.text = value;
      else splices.push({ start: at, end: at, text: value });
    } else {
      if (removed) splices.push({ start: at, end: at + value.length, text: '' });
      at += value.length;
    }
  }
  return splices.map((splice) => editOf(text, splice));
}

const SEVERITIES = {
  error: DiagnosticSeverity.Error,
  warning: DiagnosticSeverity.Warning,
  note: DiagnosticSeverity.Information,
};

export const diagnosticOf = (
  text: TextDocument,
  { level, code, message, related, ...stretch }: Trouble,
): Diagnostic => ({
  range: rangeIn(text, stretch),
  severity: SEVERITIES[level],
  source: 'Glenmark',
  message,
  ...(code === undefined ? {} : { code }),
  ...(related.length === 0
    ? {}
    : {
        relatedInformation: related.map(({ message, ...place }) => ({
          location: { uri: text.uri, range: rangeIn(text, place) },
          message,
        })),
      }),
});

const ITEMS: Readonly<Record<Suggestion['kind'], CompletionItemKind>> = {
  field: CompletionItemKind.Property,
  value: CompletionItemKind.EnumMember,
  name: CompletionItemKind.Reference,
  notation: CompletionItemKind.Function,
};

/** The rank keeps the core's order: editors sort by it. */
export const itemOf = (
  text: TextDocument,
  { text: newText, help, kind, ...stretch }: Suggestion,
  rank: number,
): CompletionItem => ({
  label: newText.trim(),
  kind: ITEMS[kind],
  detail: help,
  sortText: String(rank).padStart(5, '0'),
  filterText: newText,
  textEdit: { range: rangeIn(text, stretch), newText },
});

const SYMBOLS: Readonly<Record<string, SymbolKind>> = {
  dial: SymbolKind.Constant,
  control: SymbolKind.Key,
  stance: SymbolKind.Struct,
  probe: SymbolKind.Field,
  variable: SymbolKind.Variable,
  timer: SymbolKind.Event,
  cooldown: SymbolKind.Event,
  tether: SymbolKind.Field,
  ability: SymbolKind.Boolean,
  setting: SymbolKind.Package,
  lane: SymbolKind.Namespace,
  group: SymbolKind.Class,
  state: SymbolKind.Method,
  input: SymbolKind.Array,
  mark: SymbolKind.Number,
};

export const symbolOf = (
  text: TextDocument,
  { name, kind, at, entries, ...stretch }: Entry,
): DocumentSymbol => ({
  name,
  detail: kind,
  kind: SYMBOLS[kind] ?? SymbolKind.Object,
  range: rangeIn(text, stretch),
  selectionRange: rangeIn(text, at),
  children: entries.map((entry) => symbolOf(text, entry)),
});

export const foldOf = ({ first, last, isComment }: Fold): FoldingRange => ({
  startLine: first,
  endLine: last,
  ...(isComment ? { kind: FoldingRangeKind.Comment } : {}),
});
