import type { Dimension } from './dimension.js';
import type { Arithmetic, Comparison, Syntax } from './syntax.js';

/**
 * A checked expression: dimensions agree, dials are folded, every fact has a slot in the fact table.
 * All values are numbers in base units; truth is 1 or 0.
 */
export type Expression = { dimension: Dimension; syntax: Syntax } & (
  | { kind: 'constant'; value: number }
  | { kind: 'fact'; key: string; slot: number }
  | { kind: 'memory'; mode: 'within' | 'for'; of: Expression; ticks: number; slot: number }
  | { kind: 'negate' | 'not'; of: Expression }
  | { kind: 'arithmetic'; op: Arithmetic; left: Expression; right: Expression }
  /** `rate` is set when both sides are lengths of time: they are then compared in whole ticks. */
  | { kind: 'compare'; op: Comparison; left: Expression; right: Expression; rate: number | undefined }
  | { kind: 'logic'; op: 'and' | 'or'; parts: Expression[] }
  | { kind: 'choice'; when: Expression; then: Expression; otherwise: Expression }
  | { kind: 'function'; name: string; args: Expression[] }
);

export type ExpressionOf<K extends Expression['kind']> = Extract<Expression, { kind: K }>;

/** The direct parts of an expression, in the order they are written. */
export function partsOf(e: Expression): readonly Expression[] {
  switch (e.kind) {
    case 'constant':
    case 'fact':
      return [];
    case 'memory':
    case 'negate':
    case 'not':
      return [e.of];
    case 'arithmetic':
    case 'compare':
      return [e.left, e.right];
    case 'logic':
      return e.parts;
    case 'choice':
      return [e.when, e.then, e.otherwise];
    case 'function':
      return e.args;
  }
}

/** Calls `see` for an expression and everything in it, outermost first. */
export function visit(e: Expression, see: (e: Expression) => void): void {
  see(e);
  for (const part of partsOf(e)) visit(part, see);
}

/** The keys of all facts that an expression reads, those inside memories included. */
export function factsIn(e: Expression): string[] {
  const keys = new Set<string>();
  visit(e, (part) => {
    if (part.kind === 'fact') keys.add(part.key);
  });
  return [...keys];
}
