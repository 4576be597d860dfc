import { present } from '../present.js';
import { Document, isMap, isScalar, isSeq, LineCounter, type Node, Scalar, YAMLMap, YAMLSeq } from 'yaml';
import type { Path } from './diagnostics.js';
import type { Change } from './edit.js';
import { placeAfter, rangeIn, type Source, type Splice } from './source.js';

/**
 * The text of a source after changes that put other scalars where scalars stand on one line each, or one more item
 * behind the last of a list with a line for each; undefined when a change is of another kind. Nothing is parsed and
 * nothing else of the text is touched, so it costs next to nothing, as a dial that is dragged needs.
 */
export function spliced(source: Source, changes: readonly Change[]): string | undefined {
  const splices = splicesOf(source, changes);
  return splices === undefined ? undefined : spliceText(source.text, splices);
}

/** After so many edits a text is read again: each makes finding a place in it slower. */
const MAX_EDITS = 200;

/**
 * The source after changes that put other scalars in the place of scalars of the same quoting, without parsing; undefined
 * for any others. Only the places of its document's nodes are as in the new text, their values are the old ones.
 */
export function splicedSource(source: Source, changes: readonly Change[]): Source | undefined {
  const edits = source.edits ?? [];
  if (edits.length >= MAX_EDITS || changes.some((change) => change.insert === true)) return undefined;
  const splices = splicesOf(source, changes);
  if (splices === undefined) return undefined;
  const keepsQuotes = splices.every(({ start, text }) => quoteAt(source.text, start) === quoteAt(text, 0));
  if (!keepsQuotes) return undefined;
  const lines = new LineCounter();
  for (const start of source.lines.lineStarts) lines.addNewLine(placeAfter(start, splices));
  const text = spliceText(source.text, splices);
  return { text, document: source.document, lines, edits: [...edits, splices] };
}

const quoteAt = (text: string, at: number): string => /^["']/.exec(text.charAt(at))?.[0] ?? '';

/** A text with some pieces of it replaced, of which no two overlap. */
export const spliceText = (text: string, splices: readonly Splice[]): string =>
  [...splices]
    .sort((a, b) => b.start - a.start)
    .reduce((after, { start, end, text: next }) => after.slice(0, start) + next + after.slice(end), text);

/** What changes put into a text, the last piece first; undefined when one of them takes more than a splice. */
function splicesOf(source: Source, changes: readonly Change[]): Splice[] | undefined {
  const splices: Splice[] = [];
  for (const change of changes) {
    const splice = spliceOf(source, change);
    // Two changes at one place depend on their order.
    if (splice === undefined || splices.some((s) => s.start === splice.start)) return undefined;
    splices.push(splice);
  }
  return splices.sort((a, b) => b.start - a.start);
}

function spliceOf(source: Source, change: Change): Splice | undefined {
  return change.insert === true ? appended(source, change) : replaced(source, change);
}

function replaced(source: Source, { path, value }: Change): Splice | undefined {
  if (!['string', 'number', 'boolean'].includes(typeof value)) return undefined;
  const found = nodeAt(source.document.contents, path);
  if (found === undefined || !isScalar(found.node)) return undefined;
  const { node, inFlow } = found;
  const [start, end] = present(rangeIn(source, node));
  const plain = node.tag === undefined && node.anchor === undefined && end > start;
  if (!plain || source.text.slice(start, end).includes('\n')) return undefined;
  const text = written(
    value as string | number | boolean,
    typeof value === 'string' ? node.type : undefined,
    inFlow,
  );
  return text === undefined ? undefined : { start, end, text };
}

function appended(source: Source, { path, value }: Change): Splice | undefined {
  const { document, text } = source;
  const list = nodeAt(document.contents, path.slice(0, -1));
  if (list === undefined || list.inFlow || !isSeq(list.node) || list.node.flow === true) return undefined;
  const { items } = list.node;
  const last = items[items.length - 1];
  if (items.length !== path[path.length - 1] || !isMap(last) || last.flow !== true) return undefined;
  const [start, end] = present(rangeIn(source, last));
  const lineEnd = text.indexOf('\n', end);
  const indent = /^( *)- $/.exec(text.slice(text.lastIndexOf('\n', start - 1) + 1, start))?.[1];
  if (lineEnd < 0 || indent === undefined || text.slice(start, end).includes('\n')) return undefined;
  const item = new Document(value, { aliasDuplicateObjects: false });
  if (!isMap(item.contents)) return undefined;
  item.contents.flow = true;
  const line = item.toString({ lineWidth: 0, flowCollectionPadding: true }).trimEnd();
  return line.includes('\n') ? undefined : { start: lineEnd, end: lineEnd, text: `\n${indent}- ${line}` };
}

/** The node at a path that goes through no alias, and whether it stands between brackets. */
function nodeAt(contents: unknown, path: Path): { node: Node; inFlow: boolean } | undefined {
  let node = contents;
  let inFlow = false;
  for (const step of path) {
    if (!isMap(node) && !isSeq(node)) return undefined;
    inFlow ||= node.flow === true;
    node = node.get(step, true);
  }
  return node === undefined || node === null ? undefined : { node: node as Node, inFlow };
}

/** A scalar as it is written in the same place; undefined when it takes more than a line. */
function written(
  value: string | number | boolean,
  type: Scalar['type'],
  inFlow: boolean,
): string | undefined {
  const scalar = new Scalar(value);
  if (type !== undefined) scalar.type = type;
  // As the value of a short key, for what may stand unquoted depends on what is around it.
  const around = new YAMLMap();
  around.set('a', scalar);
  const list = new YAMLSeq();
  list.items.push(around);
  const document = new Document(list);
  around.flow = inFlow;
  const line = document.toString({ lineWidth: 0, flowCollectionPadding: true }).trimEnd();
  const match = inFlow ? /^- \{ a: (.+) \}$/.exec(line) : /^- a: (.+)$/.exec(line);
  return line.includes('\n') ? undefined : match?.[1];
}
