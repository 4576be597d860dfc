import { type Dimension, sameDimension, UNIT_NAMES, unitDimension } from './dimension.js';
import type { Scope } from './check.js';
import { FACTS, FACTS_OF, FUNCTIONS, isNamedFact } from './facts.js';

/** Something that can stand at a place in a text. */
export interface Completion {
  /** What is put in place of the word at the caret. */
  text: string;
  /** One line about it. */
  help: string;
  /** True when it has the dimension that is wanted by itself; such come first. */
  fits: boolean;
}

export interface Completions {
  /** The word at the caret, which a completion replaces. */
  start: number;
  end: number;
  items: Completion[];
}

/**
 * What can stand where the caret is in an expression, best first: inside `held(` the buttons, after a number the units,
 * else values, facts and functions that begin so. `wanted` is the dimension of the whole expression, when it has one.
 */
export function complete(text: string, caret: number, scope: Scope, wanted?: Dimension): Completions {
  const before = text.slice(0, caret);
  const word = /[A-Za-z_][A-Za-z0-9_]*$/.exec(before)?.[0] ?? '';
  const start = caret - word.length;
  const end = caret + (/^[A-Za-z0-9_]*/.exec(text.slice(caret))?.[0].length ?? 0);
  const rank = (items: Completion[]): Completions => ({
    start,
    end,
    items: items
      .filter((item) => item.text.toLowerCase().startsWith(word.toLowerCase()))
      .sort((a, b) => Number(b.fits) - Number(a.fits) || a.text.localeCompare(b.text, 'en')),
  });
  const lead = before.slice(0, start);
  const call = /([A-Za-z_]\w*)\(\s*$/.exec(lead)?.[1] ?? /\b(in)\s+$/.exec(lead)?.[1];
  if (call !== undefined && isNamedFact(call)) {
    const { of } = FACTS_OF[call];
    return rank((scope.things(of) ?? []).map((name) => ({ text: name, help: of, fits: true })));
  }
  if (/(?:^|[^\w.])\d+(?:\.\d*)?\s*$/.test(lead)) {
    return rank(
      UNIT_NAMES.map((unit) => ({
        text: unit,
        help: 'unit',
        fits: wanted === undefined || sameDimension(unitDimension(unit), wanted),
      })),
    );
  }
  const fitting = (dimension: Dimension): boolean => wanted === undefined || sameDimension(dimension, wanted);
  const values = scope.names().flatMap((name): Completion[] => {
    const value = scope.constant(name);
    const dimension = typeof value === 'object' ? value.dimension : scope.variable(name);
    return dimension === undefined
      ? []
      : [{ text: name, help: typeof value === 'object' ? 'dial' : 'variable', fits: fitting(dimension) }];
  });
  const facts = Object.entries(FACTS).map(([name, { dimension, help }]): Completion => ({
    text: name,
    help,
    fits: fitting(dimension),
  }));
  const factsOf = Object.entries(FACTS_OF).flatMap(([name, { of, also, dimension, help }]): Completion[] =>
    (scope.things(of) ?? []).map((thing) => ({
      text: also === undefined ? `${name}(${thing})` : `${name}(${thing}, `,
      help,
      fits: fitting(dimension),
    })),
  );
  const functions = Object.entries(FUNCTIONS).map(([name, { help }]): Completion => ({
    text: `${name}(`,
    help,
    fits: false,
  }));
  const words = ['and', 'or', 'not', 'within', 'for', 'if', 'then', 'else', 'true', 'false'].map(
    (text): Completion => ({ text, help: 'word', fits: false }),
  );
  return rank([...values, ...factsOf, ...facts, ...functions, ...words]);
}
