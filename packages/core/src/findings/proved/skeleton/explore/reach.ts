import type { Skeleton } from './explore.js';

/** All situations from which a step, or several, may lead to one of `goals`, themselves included; by place. */
export function canReach(
  { situations, from, to }: Skeleton,
  isGoal: (values: readonly number[], place: number) => boolean,
  /** Steps that count; all by default. */
  isStep: (from: number, to: number) => boolean = () => true,
): Uint8Array {
  const count = situations.length;
  // Steps by where they lead: those to situation i begin at first[i].
  const first = new Int32Array(count + 1);
  for (const target of to) first[target + 1] = first[target + 1]! + 1;
  for (let i = 0; i < count; i++) first[i + 1] = first[i + 1]! + first[i]!;
  const fill = first.slice();
  const sources = new Int32Array(to.length);
  to.forEach((target, step) => {
    const k = fill[target]!;
    sources[k] = from[step]!;
    fill[target] = k + 1;
  });
  const reached = new Uint8Array(count);
  const queue: number[] = [];
  for (let i = 0; i < count; i++) {
    if (!isGoal(situations[i]!, i)) continue;
    reached[i] = 1;
    queue.push(i);
  }
  for (let target = queue.pop(); target !== undefined; target = queue.pop()) {
    for (let k = first[target]!; k < first[target + 1]!; k++) {
      const source = sources[k]!;
      if (reached[source] !== 0 || !isStep(source, target)) continue;
      reached[source] = 1;
      queue.push(source);
    }
  }
  return reached;
}

/** The values of a digit that come about and that no step changes any more: what they bring is for good. */
export function lastingValues({ situations, from, to, slice }: Skeleton, digit: number): number[] {
  const { size } = slice.digits[digit]!;
  const occurs = new Uint8Array(size);
  const changes = new Uint8Array(size);
  for (const values of situations) occurs[values[digit]!] = 1;
  for (let step = 0; step < from.length; step++) {
    const value = situations[from[step]!]![digit]!;
    if (situations[to[step]!]![digit] !== value) changes[value] = 1;
  }
  return Array.from({ length: size }, (_, value) => value).filter((v) => occurs[v] === 1 && changes[v] === 0);
}
