import type { Dimension } from './dimension.js';
import type { FactRef } from './reference.js';
import type { Arithmetic, Comparison, Syntax } from './syntax.js';

/**
 * A checked expression: dimensions agree, dials are folded, every fact is resolved and has a slot in the fact table.
 * All values are numbers in base units; truth is 1 or 0.
 */
export type Expression = { dimension: Dimension; syntax: Syntax } &
  /** `dials` are those that the value was folded from. */
  (
    | { kind: 'constant'; value: number; dials: readonly string[] }
    | { kind: 'fact'; ref: FactRef; slot: number }
    /** `dials` are those behind its length of time. */
    | {
        kind: 'memory';
        mode: 'within' | 'for';
        of: Expression;
        ticks: number;
        slot: number;
        dials: readonly string[];
        /** Controls whose press opens a crossing by this memory, and is then used up; none where nothing is opened by it. */
        presses: readonly string[];
      }
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

/** A text that is the same for two expressions when they come to the same by the same steps, wherever they are written. */
export function codeOf(e: Expression): string {
  switch (e.kind) {
    case 'constant':
      return String(e.value);
    case 'fact':
    case 'memory':
      return `#${e.slot}`;
    case 'arithmetic':
    case 'logic':
      return `${e.op}(${codesOf(e)})`;
    case 'compare':
      return `${e.op} ${e.rate}(${codesOf(e)})`;
    case 'function':
      return `${e.name}(${codesOf(e)})`;
    case 'negate':
    case 'not':
    case 'choice':
      return `${e.kind}(${codesOf(e)})`;
  }
}

const codesOf = (e: Expression): string => partsOf(e).map(codeOf).join();

/** Calls `see` for an expression and everything in it, outermost first. */
export function visit(e: Expression, see: (e: Expression) => void): void {
  see(e);
  for (const part of partsOf(e)) visit(part, see);
}

/** All facts that an expression reads, those inside memories included; a fact that stands several times is given once. */
export function factsIn(e: Expression): FactRef[] {
  const found = new Map<number, FactRef>();
  visit(e, (part) => {
    if (part.kind === 'fact') found.set(part.slot, part.ref);
  });
  return [...found.values()];
}

/** The slots of all facts that an expression reads, each once. */
export function slotsIn(e: Expression): number[] {
  const slots = new Set<number>();
  visit(e, (part) => {
    if (part.kind === 'fact') slots.add(part.slot);
  });
  return [...slots];
}

/** The dials that an expression was made from, each once; those that they are made from in turn are not among them. */
export function dialsIn(e: Expression): string[] {
  const dials = new Set<string>();
  visit(e, (part) => {
    if (part.kind === 'constant' || part.kind === 'memory') for (const dial of part.dials) dials.add(dial);
  });
  return [...dials];
}
