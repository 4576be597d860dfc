// `npm run campaign`: what may go wrong, done on purpose. `-- NAME …` runs some of it, `--small` a little of each, as
// `npm test` does. Each prints one line of figures, and the command fails where something is not zero that should be.
import { cluster } from './campaign/cluster.mjs';
import { damage } from './campaign/damage.mjs';
import { floods } from './campaign/floods.mjs';
import { fuzzing } from './campaign/fuzz.mjs';
import { killing } from './campaign/kill.mjs';
import { twoServers } from './campaign/owners.mjs';
import { powerCuts } from './campaign/power.mjs';

const args = process.argv.slice(2);
const isSmall = args.includes('--small');
const wanted = args.filter((a) => !a.startsWith('--'));

/** Each with its full and its small size, and the figures that must be zero. */
const CAMPAIGNS = {
  fuzz: [fuzzing, { texts: 1_000_000, documents: 20_000 }, { texts: 20_000, documents: 400 }, ['crashed']],
  floods: [
    floods,
    { slow: 600, opened: 5000, heeded: 1000 },
    // As a part of the tests nothing is timed: only a stop that is never heeded fails.
    { slow: 50, opened: 500, only: ['quotes', '10,000 timers', 'noise'] },
    ['unanswered', 'unhealthy', 'slowConnectionsLeft', 'lateStops', 'badExits'],
  ],
  kill: [killing, { rounds: 100 }, { rounds: 2 }, ['lost', 'notStarted']],
  power: [powerCuts, { rounds: 50 }, { rounds: 1 }, ['lost', 'notOpened']],
  damage: [damage, { files: 120 }, { files: 1 }, ['lost', 'notOpened', 'empty']],
  owners: [twoServers, { rounds: 10 }, { rounds: 1 }, ['bothRan', 'neitherRan']],
  cluster: [
    cluster,
    { rounds: 60, situations: 12_000 },
    { rounds: 3, situations: 6000 },
    ['died', 'lost', 'wrongReports', 'unfinished', 'notStarted'],
  ],
};

let failed = false;
for (const [name, [run, full, small, zero]] of Object.entries(CAMPAIGNS)) {
  if (wanted.length > 0 && !wanted.includes(name)) continue;
  const began = Date.now();
  const figures = await run(isSmall ? small : full);
  const wrong = zero.filter((figure) => figures[figure] !== 0);
  failed ||= wrong.length > 0;
  const told = Object.entries(figures).map(([figure, value]) => `${figure} ${value}`);
  const verdict = wrong.length > 0 ? `FAILED: ${wrong.join(', ')} should be 0` : 'ok';
  process.stdout.write(
    `${name}: ${told.join(', ')} (${Math.round((Date.now() - began) / 1000)} s) ${verdict}\n`,
  );
}
process.exit(failed ? 1 : 0);
