/** Lines (from 0) that can be put away behind the first of them. */
export interface Fold {
  first: number;
  last: number;
  isComment: boolean;
}

/** What can be folded in a text: whatever is further in than the line above it, and comments over several lines. */
export function foldsOf(text: string): Fold[] {
  const lines = text.split('\n').map((line) => ({
    indent: /^ */.exec(line)?.[0].length ?? 0,
    isEmpty: line.trim() === '',
    isComment: /^\s*#/.test(line),
  }));
  const folds: Fold[] = [];
  const open: { line: number; indent: number }[] = [];
  let last = -1;
  const close = (indent: number): void => {
    for (let top = open.at(-1); top !== undefined && top.indent >= indent; top = open.at(-1)) {
      open.pop();
      if (last > top.line) folds.push({ first: top.line, last, isComment: false });
    }
  };
  lines.forEach(({ indent, isEmpty, isComment }, line) => {
    if (isEmpty || isComment) return;
    close(indent);
    open.push({ line, indent });
    last = line;
  });
  close(0);
  for (let line = 0; line < lines.length; line++) {
    const first = line;
    while (lines[line + 1]?.isComment === true && lines[first]?.isComment === true) line++;
    if (line > first) folds.push({ first, last: line, isComment: true });
  }
  return folds.sort((a, b) => a.first - b.first);
}
