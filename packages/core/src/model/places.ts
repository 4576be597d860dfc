import { isMap, isScalar, isSeq, type Node, type Scalar } from 'yaml';
import type { Path } from './diagnostics.js';
import { rangeIn, type Source } from './source.js';

/** A piece of a text, from `start` up to `end`. */
export interface Stretch {
  start: number;
  end: number;
}

/** What stands at a place of a text: the innermost key or value around it. */
export interface Place extends Stretch {
  path: Path;
  isKey: boolean;
  /** The text of a scalar, as the document means it; undefined for mappings and lists. */
  value: string | undefined;
}

/** Where the value at a path stands, or its key; undefined when nothing is there. */
export function stretchOf(source: Source, path: Path, { key = false } = {}): Stretch | undefined {
  const node = nodeOf(source, path, key);
  const range = node === undefined ? undefined : rangeIn(source, node);
  return range && { start: range[0], end: range[1] };
}

/**
 * Where a stretch of the text of a scalar stands, for one on a single line without escapes, where that can be told;
 * undefined for any other.
 */
export function stretchIn(source: Source, path: Path, { start, end }: Stretch): Stretch | undefined {
  const node = nodeOf(source, path, false);
  const at = stretchOf(source, path);
  if (node === undefined || at === undefined || !isScalar(node)) return undefined;
  const quote = isQuoted(node) ? 1 : 0;
  const raw = source.text.slice(at.start + quote, at.end - quote);
  const isAsMeant = typeof node.value === 'string' ? raw === node.value : quote === 0;
  return isAsMeant ? { start: at.start + quote + start, end: at.start + quote + end } : undefined;
}

/** Where a name is written: the key or the whole value at a path, without its quotes. */
export function nameStretch(source: Source, path: Path, isKey: boolean): Stretch | undefined {
  const node = nodeOf(source, path, isKey);
  const at = stretchOf(source, path, { key: isKey });
  if (at === undefined || !isScalar(node)) return undefined;
  return isQuoted(node) ? { start: at.start + 1, end: at.end - 1 } : at;
}

const isQuoted = ({ type }: Scalar): boolean => type === 'QUOTE_DOUBLE' || type === 'QUOTE_SINGLE';

/** The innermost key or value of a document around an offset of its text; undefined between them. */
export function placeAt(source: Source, offset: number): Place | undefined {
  const holds = (node: unknown): boolean => {
    const range = rangeIn(source, node);
    return range !== undefined && range[0] <= offset && offset <= range[1];
  };
  const placed = (node: Node, path: Path, isKey: boolean): Place | undefined => {
    const range = rangeIn(source, node);
    const value = isScalar(node) ? String(node.value) : undefined;
    return range && { start: range[0], end: range[1], path, isKey, value };
  };
  let node: unknown = source.document.contents;
  let path: Path = [];
  for (;;) {
    if (isMap(node)) {
      // What is laid out in lines ends where the next line begins, so what begins there goes first.
      const pair =
        node.items.find(({ key }) => holds(key)) ?? node.items.findLast(({ value }) => holds(value));
      if (pair === undefined || !isScalar(pair.key)) return undefined;
      path = [...path, String(pair.key.value)];
      if (holds(pair.key)) return placed(pair.key, path, true);
      node = pair.value;
    } else if (isSeq(node)) {
      const index = node.items.findLastIndex(holds);
      if (index < 0) return undefined;
      path = [...path, index];
      node = node.items[index];
    } else return isScalar(node) ? placed(node, path, false) : undefined;
  }
}

function nodeOf({ document }: Source, path: Path, key: boolean): Node | undefined {
  let node: unknown = document.contents;
  for (const [depth, step] of path.entries()) {
    if (isMap(node)) {
      const pair = node.items.find((item) => isScalar(item.key) && String(item.key.value) === String(step));
      node = key && depth === path.length - 1 ? pair?.key : pair?.value;
    } else if (isSeq(node)) node = node.items[Number(step)];
    else return undefined;
  }
  return (node ?? undefined) as Node | undefined;
}
