import { type Expression, factsIn } from '../notation/index.js';

/** The controls whose press an expression asks for. */
export const pressesIn = (e: Expression): string[] =>
  factsIn(e).flatMap(({ fact, of }) => (fact === 'pressed' && of !== undefined ? [of] : []));
