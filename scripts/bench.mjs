// `npm run bench`: figures of this machine, measured in one run. After `--`: names of parts to measure those only, `--json`
// for lines of JSON, `--brief` to see that each part runs.
import { benchCode } from './bench/code.mjs';
import { benchEditor } from './bench/editor.mjs';
import { benchLoading } from './bench/load.mjs';
import { benchRerun } from './bench/rerun.mjs';
import { benchScouting } from './bench/scout.mjs';
import { benchTicks } from './bench/ticks.mjs';
import { benchTuning } from './bench/tune.mjs';
import { benchWorkers } from './bench/workers.mjs';

const PARTS = {
  loading: benchLoading,
  editor: benchEditor,
  ticks: benchTicks,
  code: benchCode,
  rerun: benchRerun,
  tuning: benchTuning,
  scouting: benchScouting,
  workers: benchWorkers,
};
const asked = process.argv.slice(2).filter((word) => !word.startsWith('--'));
const unknown = asked.filter((name) => !(name in PARTS));
if (unknown.length > 0) {
  process.stderr.write(
    `There is no part '${unknown[0]}' of the benchmark: there are ${Object.keys(PARTS).join(', ')}.\n`,
  );
  process.exit(2);
}
for (const [name, part] of Object.entries(PARTS))
  if (asked.length === 0 || asked.includes(name)) await part();
