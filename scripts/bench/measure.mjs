// Measuring: the best of several rounds in one process, since other work on a machine only ever makes them slower.
const json = process.argv.includes('--json');

/** Nanoseconds a piece of work takes when done `count` times at once: the best of some rounds, after two that warm up. */
export function best(count, work, rounds = 12) {
  let least = Infinity;
  for (let i = 0; i < rounds + 2; i++) {
    const start = process.hrtime.bigint();
    work(count);
    const each = Number(process.hrtime.bigint() - start) / count;
    if (i >= 2) least = Math.min(least, each);
  }
  return least;
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
