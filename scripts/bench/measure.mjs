// Measuring: the best of several rounds in one process, since other work on a machine only ever makes them slower.
const json = process.argv.includes('--json');
/** Everything once, to see that it runs: what it prints then says nothing of speed. */
export const isBrief = process.argv.includes('--brief');

/**
 * Nanoseconds that one of each piece of work takes. A piece is a list of slices, `{ count, work }`, of about 0.3 ms, so
 * short that most are not interrupted; the best time of each slice counts. The pieces take turns slice by slice, so that
 * what slows the machine for a while slows none alone. The first tenth of the rounds warms up.
 */
export function bestOf(pieces, rounds) {
  const total = isBrief ? 1 : rounds;
  const best = pieces.map((slices) => slices.map(() => Infinity));
  for (let round = 0; round < total; round++)
    for (let i = 0; i < Math.max(...pieces.map((slices) => slices.length)); i++)
      pieces.forEach((slices, p) => {
        if (i >= slices.length) return;
        const start = process.hrtime.bigint();
        slices[i].work();
        const took = Number(process.hrtime.bigint() - start);
        if (round >= Math.floor(total / 10)) best[p][i] = Math.min(best[p][i], took);
      });
  const sum = (list) => list.reduce((all, value) => all + value, 0);
  return pieces.map((slices, p) => sum(best[p]) / sum(slices.map(({ count }) => count)));
}

/** A piece of `slices` slices that do the same work `count` times each. */
export const repeated = (slices, count, work) =>
  Array.from({ length: slices }, () => ({ count, work: () => work(count) }));

/** The median time of some runs, in milliseconds, after a few that warm up. */
export function median(runs, work) {
  const [counted, warm] = isBrief ? [1, 0] : [runs, 3];
  const times = [];
  for (let i = 0; i < counted + warm; i++) {
    const start = process.hrtime.bigint();
    work();
    if (i >= warm) times.push(Number(process.hrtime.bigint() - start) / 1e6);
  }
  return times.sort((a, b) => a - b)[Math.floor(times.length / 2)];
}

export function report(name, value, unit, target) {
  process.stdout.write(
    json
      ? `${JSON.stringify({ name, value, unit, target })}\n`
      : `${name.padEnd(62)}${value.toFixed(value < 100 ? 2 : 0).padStart(12)} ${unit.padEnd(13)} ${target ?? ''}\n`,
  );
}
