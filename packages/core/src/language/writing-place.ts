import { present } from '../present.js';

/** Where in a document somebody is writing, told from the text alone: it is seldom readable just then. */
export interface WritingPlace {
  /** The keys from the root down, `-` for an item of a list. */
  path: string[];
  /** True where a key is written, or a value of which that cannot be told yet. */
  mayBeKey: boolean;
  /** Where the value or key begins, behind quotes. */
  start: number;
}

/** A key or a dash, and the column in which it begins. */
interface Step {
  name: string;
  column: number;
}

const KEY = /^(?:"([^"]*)"|'([^']*)'|([^\s"'#[\]{},-][^:#]*?|-[^\s:#][^:#]*?))\s*:(?=\s|$)/;

/** Where a caret is in a document in YAML; undefined in a comment. */
export function writingPlace(text: string, caret: number): WritingPlace | undefined {
  const lineStart = text.lastIndexOf('\n', caret - 1) + 1;
  const line = text.slice(lineStart, caret);
  const { steps, rest } = stepsOf(line);
  const inFlow = flowOf(line.slice(rest));
  if (inFlow === undefined) return undefined;
  const first = steps[0]?.column ?? /^ */.exec(line)?.[0].length ?? 0;
  const above = stepsAbove(text.slice(0, lineStart), first, steps[0]?.name === '-');
  const hasKey = steps.some(({ name }) => name !== '-');
  return {
    path: [...above, ...steps.map((step) => step.name), ...inFlow.path],
    mayBeKey: inFlow.path.length > 0 || inFlow.isInside ? inFlow.mayBeKey : !hasKey,
    start: lineStart + rest + inFlow.start,
  };
}

/** The dashes and the key with which a line begins, and where the rest of it does. */
function stepsOf(line: string): { steps: Step[]; rest: number } {
  const steps: Step[] = [];
  let at = /^ */.exec(line)?.[0].length ?? 0;
  for (;;) {
    const dash = /^-(?: +|$)/.exec(line.slice(at));
    if (dash === null) break;
    steps.push({ name: '-', column: at });
    at += dash[0].length;
  }
  const key = KEY.exec(line.slice(at));
  if (key !== null) {
    steps.push({ name: key[1] ?? key[2] ?? present(key[3]), column: at });
    at += key[0].length;
  }
  at += /^ */.exec(line.slice(at))?.[0].length ?? 0;
  return { steps, rest: at };
}

/** What encloses a column, from the root down: the lines above that are further out. */
function stepsAbove(text: string, column: number, isDash: boolean): string[] {
  const path: string[] = [];
  let [limit, dash] = [column, isDash];
  const lines = text.split('\n');
  for (let i = lines.length - 1; i >= 0 && (limit > 0 || dash); i--) {
    const line = present(lines[i]);
    if (/^\s*(#|$)/.test(line)) continue;
    const { steps, rest } = stepsOf(line);
    const indent = /^ */.exec(line)?.[0].length ?? 0;
    // Brackets that a line leaves open enclose the lines after it.
    if ((steps.at(-1)?.column ?? indent) < limit) path.unshift(...(flowOf(line.slice(rest))?.path ?? []));
    for (const { name, column: at } of steps.reverse()) {
      // The items of a list may begin in the column of its key.
      if (at < limit || (dash && at === limit && name !== '-')) {
        path.unshift(name);
        [limit, dash] = [at, name === '-'];
      }
    }
    if (steps.length === 0 && indent < limit) [limit, dash] = [indent, false];
  }
  return path;
}

/** Where a line of brackets, or a plain value, ends; undefined when it ends in a comment. */
function flowOf(
  rest: string,
): { path: string[]; isInside: boolean; mayBeKey: boolean; start: number } | undefined {
  const open: { isMap: boolean; key: string | undefined }[] = [];
  let start = 0;
  let quote = '';
  for (let i = 0; i < rest.length; i++) {
    const c = rest.charAt(i);
    const isFresh = rest.slice(start, i).trim() === '';
    if (quote !== '') {
      if (c === quote) quote = '';
    } else if (isFresh && (c === '"' || c === "'")) {
      quote = c;
      start = i + 1;
    } else if (c === '#' && (i === 0 || /\s/.test(rest.charAt(i - 1)))) return undefined;
    else if (isFresh && (c === '{' || c === '[')) {
      open.push({ isMap: c === '{', key: undefined });
      start = i + 1;
    } else if (open.length > 0 && (c === '}' || c === ']')) {
      open.pop();
      start = i + 1;
    } else if (open.length > 0 && c === ',') {
      const inner = present(open.at(-1));
      inner.key = undefined;
      start = i + 1;
    } else if (open.at(-1)?.isMap === true && c === ':' && /^\s|^$/.test(rest.charAt(i + 1))) {
      present(open.at(-1)).key = rest.slice(start, i).trim().replace(/["']/g, '');
      start = i + 1;
    }
  }
  start += /^\s*/.exec(rest.slice(start))?.[0].length ?? 0;
  const last = open.at(-1);
  return {
    path: open.flatMap(({ isMap, key }) => (isMap ? (key === undefined ? [] : [key]) : ['-'])),
    isInside: last !== undefined,
    mayBeKey: last?.isMap === true && last.key === undefined,
    start,
  };
}
