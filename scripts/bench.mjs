// `npm run bench` (`-- --json` for lines of JSON, `-- --brief` to see that each part runs): figures of this machine, measured in one run.
import { benchCode } from './bench/code.mjs';
import { benchEditor } from './bench/editor.mjs';
import { benchLoading } from './bench/load.mjs';
import { benchRerun } from './bench/rerun.mjs';
import { benchScouting } from './bench/scout.mjs';
import { benchTicks } from './bench/ticks.mjs';
import { benchTuning } from './bench/tune.mjs';
import { benchWorkers } from './bench/workers.mjs';

benchLoading();
await benchEditor();
await benchTicks();
benchCode();
benchRerun();
benchTuning();
benchScouting();
await benchWorkers();
