import { type Document, isMap, isScalar, isSeq, type Pair, parseDocument } from 'yaml';
import type { Path } from './diagnostics.js';
import type { Source } from './source.js';
import { laidOutAs } from './layout.js';
import { spliced } from './splice.js';

/** One change of a document as data: `value` undefined removes, `insert` puts a list item before the index. */
export interface Change {
  path: Path;
  value?: unknown;
  insert?: boolean;
}

/**
 * The text after some changes. Comments, key order, quoting and flow style of all that is not changed stay.
 * The text must be one that parses; the changes must name places that exist (or whose parent does). Whoever has the
 * text parsed already gives its source: then scalars are put in without parsing it again.
 */
export function edit(text: string, changes: readonly Change[], source?: Source): string {
  const quick = source?.text === text ? spliced(source, changes) : undefined;
  if (quick !== undefined) return quick;
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
  return printed(document, text);
}

/** A document as text, laid out as it was before. */
const printed = (document: Document, before: string): string =>
  laidOutAs(before, document.toString({ lineWidth: 0, flowCollectionPadding: true }));

/**
 * A plain value after the same changes, for those who need no text. What is changed is copied, the rest is shared;
 * fails as `edit` does when a list is not there.
 */
export function changed<T>(value: T, changes: readonly Change[]): T {
  return changes.reduce<unknown>((at, change) => put(at, change.path, change), value) as T;
}

function put(at: unknown, path: Path, change: Change): unknown {
  const [step, ...rest] = path;
  if (step === undefined) return change.value;
  const inner = rest.length > 0;
  if (Array.isArray(at)) {
    const list: unknown[] = [...(at as unknown[])];
    const index = Number(step);
    if (inner) list[index] = put(list[index], rest, change);
    else if (change.value === undefined) list.splice(index, 1);
    else list.splice(index, change.insert === true ? 0 : 1, change.value);
    return list;
  }
  if (change.insert === true && !inner) throw new RangeError(`no list at ${path.join('.')}`);
  const map = { ...(at as Record<string, unknown> | undefined) };
  if (inner) map[step] = put(map[step], rest, change);
  else if (change.value !== undefined) map[step] = change.value;
  else return Object.fromEntries(Object.entries(map).filter(([key]) => key !== String(step)));
  return map;
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
  return printed(document, text);
}

/** The text with the items of a list in another order: at each place the one that was at `order[place]`. */
export function arranged(text: string, path: Path, order: readonly number[]): string {
  const document = parseDocument(text, { keepSourceTokens: true });
  const list = document.getIn(path, true);
  if (!isSeq(list) || list.items.length !== order.length)
    throw new RangeError(`no list at ${path.join('.')}`);
  const items = [...list.items];
  list.items = order.map((place) => items[place]);
  return printed(document, text);
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
  return printed(document, text);
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
