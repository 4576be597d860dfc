import { isMap, isScalar, isSeq, type Pair, parseDocument } from 'yaml';
import type { Path } from './diagnostics.js';

/** One change of a document as data: `value` undefined removes, `insert` puts a list item before the index. */
export interface Change {
  path: Path;
  value?: unknown;
  insert?: boolean;
}

/**
 * The text after some changes. Comments, key order, quoting and flow style of all that is not changed stay.
 * The text must be one that parses; the changes must name places that exist (or whose parent does).
 */
export function edit(text: string, changes: readonly Change[]): string {
  const document = parseDocument(text, { keepSourceTokens: true });
  for (const { path, value, insert } of changes) {
    if (value === undefined) {
      document.deleteIn(path);
    } else if (insert) {
      const list = document.getIn(path.slice(0, -1), true);
      if (!isSeq(list)) throw new RangeError(`no list at ${path.join('.')}`);
      const compact =
        list.items.length === 0 || list.items.some((item) => (item as { flow?: boolean }).flow === true);
      if (list.items.length === 0) list.flow = false;
      list.items.splice(Number(path[path.length - 1]), 0, createNode(document, value, compact));
    } else {
      const old = document.getIn(path, true);
      if (isScalar(old) && (typeof value !== 'object' || value === null)) {
        old.value = value;
        if (typeof value !== 'string') delete old.type;
      } else {
        const parent = document.getIn(path.slice(0, -1), true) as { items?: Pair[] } | undefined;
        const flow =
          parent?.items?.some((item) => (item.value as { flow?: boolean } | null)?.flow === true) === true;
        document.setIn(path, createNode(document, value, flow));
      }
    }
  }
  return document.toString({ lineWidth: 0, flowCollectionPadding: true });
}

/** Renames one key of a mapping in place, keeping its position and its comments. */
export function renameKey(text: string, path: Path, to: string): string {
  const document = parseDocument(text, { keepSourceTokens: true });
  const parent = document.getIn(path.slice(0, -1), true);
  const pair = isMap(parent)
    ? parent.items.find((item) => isScalar(item.key) && item.key.value === path[path.length - 1])
    : undefined;
  if (pair === undefined || !isScalar(pair.key)) throw new RangeError(`no key at ${path.join('.')}`);
  pair.key.value = to;
  return document.toString({ lineWidth: 0, flowCollectionPadding: true });
}

/** The text with one key of a mapping so many places later (or earlier) among its siblings; undefined when it cannot go there. */
export function movedKey(text: string, path: Path, by: number): string | undefined {
  const document = parseDocument(text, { keepSourceTokens: true });
  const parent = document.getIn(path.slice(0, -1), true);
  if (!isMap(parent)) return undefined;
  const { items } = parent;
  const at = items.findIndex((item) => isScalar(item.key) && item.key.value === path[path.length - 1]);
  if (at < 0 || items[at + by] === undefined) return undefined;
  items.splice(at + by, 0, ...items.splice(at, 1));
  return document.toString({ lineWidth: 0, flowCollectionPadding: true });
}

function createNode(
  document: ReturnType<typeof parseDocument>,
  value: unknown,
  flow: boolean,
): ReturnType<typeof document.createNode> {
  const node = document.createNode(value);
  const scalars = isSeq(node) && node.items.every(isScalar);
  if ((isMap(node) && flow) || scalars) (node as { flow?: boolean }).flow = true;
  return node;
}
