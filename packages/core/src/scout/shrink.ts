/** Tries that one witness may cost. */
const TRIES = 500;

/**
 * Cuts a way down while it still shows the same: `test` gives the tick in which it shows, or −1. Drops the tail, then
 * stretches of time, then presses, then what is left of them, longest first; the result always shows it.
 */
export function shrink(
  inputs: readonly (readonly number[])[],
  test: (inputs: readonly (readonly number[])[]) => number,
): number[][] {
  let tries = 0;
  let best = inputs.map((input) => [...input]);
  const attempt = (candidate: number[][]): boolean => {
    if (candidate.length === 0 || ++tries > TRIES) return false;
    const tick = test(candidate);
    if (tick < 0) return false;
    best = candidate.slice(0, tick + 1);
    return true;
  };
  attempt(best);
  for (let before = Infinity; before > costOf(best) && tries < TRIES;) {
    before = costOf(best);
    for (let length = best.length >> 1; length >= 1; length >>= 1) {
      for (let from = best.length - length; from >= 0; from -= length)
        attempt([...best.slice(0, from), ...best.slice(from + length)]);
    }
    const controls = best[0]?.length ?? 0;
    for (let control = 0; control < controls; control++) {
      for (const { from, to } of pressesOf(best, control)) {
        const without = (a: number, b: number): number[][] =>
          best.map((input, t) => (t >= a && t < b ? input.with(control, 0) : input));
        if (attempt(without(from, to))) continue;
        for (let cut = (to - from) >> 1; cut >= 1; cut >>= 1)
          if (!attempt(without(to - cut, to))) attempt(without(from, from + cut));
      }
    }
  }
  return best;
}

/** What is made smaller: ticks first, then ticks with something held, then changes. */
function costOf(inputs: readonly (readonly number[])[]): number {
  let held = 0;
  let changes = 0;
  inputs.forEach((input, t) =>
    input.forEach((value, c) => {
      if (value !== 0) held++;
      if (value !== (inputs[t - 1]?.[c] ?? 0)) changes++;
    }),
  );
  return 100 * inputs.length + held + 10 * changes;
}

/** The stretches in which a control is not at rest, last first. */
function pressesOf(inputs: readonly (readonly number[])[], control: number): { from: number; to: number }[] {
  const presses: { from: number; to: number }[] = [];
  for (let t = 0; t < inputs.length; t++) {
    if (inputs[t]![control] === 0) continue;
    const from = t;
    while (t < inputs.length && inputs[t]![control] !== 0) t++;
    presses.push({ from, to: t });
  }
  return presses.reverse();
}
