// Measuring: the best of several rounds in one process, since other work on a machine only ever makes them slower.
const json = process.argv.includes('--json');

/**
 * Nanoseconds that one of each piece of work takes, where `work(count)` does `count` of them: the best of some rounds,
 * after two that warm up. The pieces take turns, so that what slows the machine for a while slows none alone.
 */
export function bestOf(pieces, rounds = 20) {
  const min = pieces.map(() => Infinity);
  for (let round = 0; round < rounds + 2; round++)
    pieces.forEach(({ count, work }, i) => {
      const start = process.hrtime.bigint();
      work(count);
      const each = Number(process.hrtime.bigint() - start) / count;
      if (round >= 2) min[i] = Math.min(min[i], each);
    });
  return min;
}

/** The median time of some runs, in milliseconds, after a few that warm up. */
export function median(runs, work) {
  const times = [];
  for (let i = 0; i < runs + 3; i++) {
    const start = process.hrtime.bigint();
    work();
    if (i >= 3) times.push(Number(process.hrtime.bigint() - start) / 1e6);
  }
  return times.sort((a, b) => a - b)[Math.floor(times.length / 2)];
}

export function report(name, value, unit, target) {
  process.stdout.write(
    json
      ? `${JSON.stringify({ name, value, unit, target })}\n`
      : `${name.padEnd(62)}${value.toFixed(value < 100 ? 2 : 0).padStart(12)} ${unit.padEnd(10)}${target ?? ''}\n`,
  );
}
