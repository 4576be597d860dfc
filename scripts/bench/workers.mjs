// Scouting shared by workers: how fast with one, two and four, what sharing costs, and what the database has to do for it.
import { execFile, spawn } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { createRequire } from 'node:module';
import { fileURLToPath } from 'node:url';
import { promisify } from 'node:util';
import { scoutingOf } from '../../packages/core/dist/findings/index.js';
import { createChecker, createSharedScoutings, openStore } from '../../packages/server/dist/index.js';
import { root } from '../build.mjs';
import { postgresPrograms, startPostgres } from '../postgres.mjs';
import { isBrief, report } from './measure.mjs';

const fromServer = createRequire(join(root, 'packages/server/package.json'));
const { Client } = fromServer('pg');
const log = fromServer('pino')({ level: 'silent' });
const sample = (file) => readFileSync(join(root, 'examples', file), 'utf8');
/** The demo; to see that it runs, something that is searched in a moment. */
const [MOVESET, COURSE, SITUATIONS] = isBrief
  ? ['courier-draft', 'mill-yard', 1500]
  : ['marram', 'tide-mill', 2_000_000];

export async function benchWorkers() {
  if (postgresPrograms() === undefined) {
    process.stdout.write('Workers are left out: PostgreSQL is not on this machine.\n');
    return;
  }
  const alone = await best(oneProcess);
  report('a scouting in one process, proving and report with it', SITUATIONS / alone.seconds, 'new/s');
  const two = await best(async () => {
    const [one, other] = await Promise.all([oneProcess(), oneProcess()]);
    return one.seconds > other.seconds ? one : other;
  });
  report('two such processes beside each other', (2 * alone.seconds) / two.seconds, 'times as fast');
  const postgres = await startPostgres();
  const url = await postgres.database();
  const checker = createChecker();
  const { store } = await openStore({ url }, { release: 'bench', check: checker.check, log });
  await store.create('moveset', { text: sample(`${MOVESET}.yaml`) });
  await store.create('course', { text: sample(`${COURSE}.yaml`) });
  const scoutings = await createSharedScoutings({ url, store, log });
  const sql = new Client(url);
  await sql.connect();
  try {
    const run = { url, scoutings, sql };
    const against = (name, its) => {
      report(`${name}, against that`, alone.seconds / its.seconds, 'times as fast');
      report(`${name}: processor time against that`, its.processor / alone.processor, 'times as long');
    };
    const whole = await best(() => shared(run, { workers: 1, parts: 1 }));
    against('shared, one worker, one part', whole);
    const one = await best(() => shared(run, { workers: 1, parts: 4 }));
    against('shared, one worker, four parts', one);
    for (const workers of isBrief ? [1, 2] : [1, 2, 4]) {
      const its = workers === 1 ? one : await best(() => shared(run, { workers, parts: 4 }));
      const words = workers === 1 ? 'one worker' : `${workers} workers`;
      report(`${words} of one thread, four parts`, its.situations / its.seconds, 'new/s');
      report(`${words}: processors that were busy with it`, its.processor / its.seconds, 'of this machine');
      if (workers > 1) {
        report(`${words} against one`, one.seconds / its.seconds, 'times as fast');
        report(`${words} against one: processor time`, its.processor / one.processor, 'times as long');
      }
      const million = its.situations / 1e6;
      report(`${words}: transactions`, its.load.transactions / million, 'a million');
      report(`${words}: rows written`, its.load.rows / million, 'a million');
      report(`${words}: write-ahead log`, its.load.log / 2 ** 20 / million, 'MiB a million');
      report(`${words}: what parts tell each other`, its.load.told / 2 ** 20 / million, 'MiB a million');
    }
  } finally {
    await sql.end();
    await scoutings.close();
    await store.close();
    await checker.close();
    postgres.stop();
  }
}

/** The fastest of some runs: what else a machine does only ever makes them slower. */
async function best(run) {
  const runs = [];
  for (let i = 0; i < (isBrief ? 1 : 3); i++) runs.push(await run());
  return runs.reduce((a, b) => (b.seconds < a.seconds ? b : a));
}

/** The same search without any sharing, in a process of its own. */
async function oneProcess() {
  const own = fileURLToPath(import.meta.url);
  const { stdout } = await promisify(execFile)(process.execPath, [own, ...process.argv.slice(2)]);
  return JSON.parse(stdout);
}

/** A scouting by so many workers: its seconds, the processor time of the workers, and what the database did meanwhile. */
async function shared({ url, scoutings, sql }, { workers: count, parts }) {
  const workers = await Promise.all(Array.from({ length: count }, () => startWorker(url)));
  const before = [await loadOf(sql), processorOf(workers)];
  const { id } = await scoutings.begin({
    moveset: MOVESET,
    courses: [COURSE],
    situations: SITUATIONS,
    seed: 1,
    parts,
  });
  let told = 0;
  const ended = await new Promise((done, fail) => {
    let last;
    scoutings
      .subscribe(
        id,
        (state) => (last = state),
        () => done(last),
      )
      .catch(fail);
    // What parts tell each other is let go at the end: the most that was there is what was told.
    const looked = setInterval(() => {
      if (last?.state === 'done') return clearInterval(looked);
      void sql
        .query(
          'select coalesce(sum(octet_length(result)), 0)::float8 as bytes from legs where scouting = $1',
          [id],
        )
        .then(({ rows }) => (told = Math.max(told, rows[0].bytes)));
    }, 500);
  });
  if (ended.state !== 'done') throw new Error(`the scouting ended as ${ended.state}: ${ended.problem}`);
  const after = [await loadOf(sql), processorOf(workers)];
  for (const { child, over } of workers) {
    child.kill('SIGTERM');
    await over;
  }
  const since = (of) => after[0][of] - before[0][of];
  return {
    seconds: ended.seconds,
    situations: ended.done,
    processor: after[1] - before[1],
    load: { transactions: since('transactions'), rows: since('rows'), log: since('log'), told },
  };
}

function startWorker(url) {
  const args = [join(root, 'packages/cli/bin/glenmark.js'), 'worker', '--database', url, '--threads', '1'];
  const child = spawn(process.execPath, args, { stdio: ['ignore', 'pipe', 'inherit'] });
  const over = new Promise((done) => child.once('exit', done));
  return new Promise((done, fail) => {
    child.stdout.once('data', () => done({ child, over }));
    void over.then((code) => fail(new Error(`a worker ended with ${code}`)));
  });
}

/** Processor time of processes so far (s), as Linux counts it: user and system, in hundredths. */
function processorOf(workers) {
  return workers.reduce((sum, { child }) => {
    const fields = readFileSync(`/proc/${child.pid}/stat`, 'utf8').split(') ')[1].split(' ');
    return sum + (Number(fields[11]) + Number(fields[12])) / 100;
  }, 0);
}

/** What the database has done so far. */
async function loadOf(sql) {
  // Each connection tells what it did about once a second.
  await new Promise((later) => setTimeout(later, 1500));
  const { rows } = await sql.query(
    `select xact_commit::float8 as transactions, (tup_inserted + tup_updated + tup_deleted)::float8 as rows,
       pg_wal_lsn_diff(pg_current_wal_lsn(), '0/0')::float8 as log
     from pg_stat_database where datname = current_database()`,
  );
  return rows[0];
}

if (process.argv[1] === fileURLToPath(import.meta.url)) {
  const [began, start] = [process.hrtime.bigint(), process.cpuUsage()];
  const scouting = scoutingOf({
    moveset: sample(`${MOVESET}.yaml`),
    courses: [sample(`${COURSE}.yaml`)],
    seed: 1,
  });
  await scouting.advance({ situations: SITUATIONS });
  const { situations } = scouting.report();
  const { user, system } = process.cpuUsage(start);
  process.stdout.write(
    JSON.stringify({
      situations,
      seconds: Number(process.hrtime.bigint() - began) / 1e9,
      processor: (user + system) / 1e6,
    }),
  );
}
