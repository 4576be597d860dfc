import { readFileSync } from 'node:fs';
import { availableParallelism } from 'node:os';
import { LANGUAGES } from '@glenmark/core/code';
import { Command, InvalidArgumentError, Option } from 'commander';
import { exportBackup, importBackup, isBackup, type PlaceOptions } from './backup.js';
import { check, type CheckOptions, FAIL_ON } from './check.js';
import { code, type CodeOptions } from './code.js';
import { compare, type CompareOptions } from './compare.js';
import { diff, type DiffOptions } from './diff.js';
import { exported, EXPORTS } from './export.js';
import { imported } from './import.js';
import { reportProgress } from './progress.js';
import { UnreadableError, UnwritableError } from './load.js';
import { run } from './run.js';
import { watch } from './watch.js';
import { worker, type WorkerCommand } from './worker.js';

const MOVESETS =
  'moveset files, YAML or JSON, folders, or patterns such as "movesets/**/*.yaml"; - reads standard input';

const several = (value: string, before: string[]): string[] => [...before, value];

const rate = (value: string): number => {
  const number = Number(value);
  if (!Number.isInteger(number) || number < 10 || number > 1000)
    throw new InvalidArgumentError('expected whole ticks per second, from 10 to 1000');
  return number;
};

const rates = (value: string): number[] => value.split(',').map(rate);

const whole =
  (min: number, max: number) =>
  (value: string): number => {
    const number = Number(value.replaceAll('_', ''));
    if (!Number.isInteger(number) || number < min || number > max)
      throw new InvalidArgumentError(`expected a whole number from ${min} to ${max}`);
    return number;
  };

const seconds = (value: string): number => {
  const number = Number(value);
  if (!(number > 0)) throw new InvalidArgumentError('expected a number of seconds above 0');
  return number;
};

const metres = (value: string): number => {
  const number = Number(value);
  if (!(number >= 0.25 && number <= 100)) throw new InvalidArgumentError('expected metres from 0.25 to 100');
  return number;
};

const format = (choices: readonly string[]): Option =>
  new Option('--format <form>', 'how to print').choices(choices).default('text');

interface Printed {
  output: string;
  warnings?: string[];
  exitCode: number;
}

/**
 * Prints what a command gives and leaves with its exit code. Input that cannot be read and output that cannot be written
 * are 2, with a sentence on standard error; a fault of our own is 3.
 */
async function perform(command: () => Printed | Promise<Printed>): Promise<void> {
  try {
    const { output, warnings = [], exitCode } = await command();
    for (const warning of warnings) process.stderr.write(`${warning}\n`);
    await printed(`${output}\n`);
    process.exitCode = exitCode;
  } catch (error) {
    if (error instanceof UnreadableError) {
      process.stderr.write(`${error.lines.join('\n')}\n`);
      process.exitCode = 2;
    } else {
      process.stderr.write(
        `Glenmark failed, which is a fault of its own. Please report it.\n${stackOf(error)}\n`,
      );
      process.exitCode = 3;
    }
  }
}

const stackOf = (error: unknown): string =>
  error instanceof Error ? (error.stack ?? error.message) : String(error);

/** Writes to standard output, whole, or fails with why it could not be. */
const printed = (text: string): Promise<void> =>
  new Promise((done, fail) => {
    const failed = (error: NodeJS.ErrnoException): void =>
      fail(
        error.code === 'EPIPE'
          ? new UnreadableError(['The reader of the output closed it before the end.'])
          : new UnwritableError('The output', error),
      );
    process.stdout.once('error', failed);
    process.stdout.write(text, (error) => (error ? failed(error) : done()));
  });

/** Becomes true at the first Ctrl C; the second one ends the command at once. */
function interruption(): () => boolean {
  let isInterrupted = false;
  process.on('SIGINT', () => {
    if (isInterrupted) process.exit(130);
    isInterrupted = true;
  });
  return () => isInterrupted;
}

/** Resolves when the command is told to end. */
const ending = (): Promise<void> =>
  new Promise((end) => process.once('SIGINT', () => end()).once('SIGTERM', () => end()));

const { version } = JSON.parse(readFileSync(new URL('../../../package.json', import.meta.url), 'utf8')) as {
  version: string;
};

const program = new Command('glenmark')
  .version(version)
  .description('Finds states that cannot be entered, cannot be left or cannot agree, and plays tapes.')
  .exitOverride((error) => process.exit(error.exitCode === 0 ? 0 : 2));

program
  .command('check')
  .description(
    'print the findings of movesets; exit code 0 none, 1 some, 2 unreadable input, 3 a fault of Glenmark',
  )
  .argument('<movesets...>', MOVESETS)
  .option('--course <file>', 'a course to play and scout on (may be repeated)', several, [])
  .option('--tape <file>', 'a tape to play and look at (may be repeated)', several, [])
  .option('--rates <list>', 'play the tapes at these ticks per second too, such as 30,120', rates, [])
  .option('--scout <situations>', 'search for so many new situations on the courses', whole(0, 1e9))
  .option('--time <seconds>', 'scout no longer than this', seconds)
  .option('--seed <n>', 'the same seed and situations give the same report', whole(0, 2 ** 31 - 1), 1)
  .option('--workers <n>', 'threads that scout together', whole(1, 64), 1)
  .option('--grid <metres>', 'scout from every place of a grid this wide too, where the body fits', metres)
  .addOption(format(['text', 'json', 'sarif', 'junit']))
  .addOption(
    new Option('--fail-on <certainty>', 'exit with 1 on findings at least as sure as this; tidy: on any')
      .choices(FAIL_ON)
      .default('risky'),
  )
  .option('--baseline <file>', 'the JSON of an earlier check: only what is new since makes this one fail')
  .option('--witness-dir <folder>', 'write the tape of every witnessed finding there')
  .action((files: string[], options: CheckOptions) =>
    perform(() => {
      const isInterrupted = interruption();
      const cores = availableParallelism();
      const workers = Math.min(options.workers, cores);
      if (workers < options.workers)
        process.stderr.write(
          `--workers is ${options.workers}; this machine has ${cores} cores, so ${workers} are used.\n`,
        );
      return check(files, { ...options, workers, isInterrupted }, reportProgress(process.stderr));
    }),
  );

program
  .command('run')
  .description('play tapes; exit code 1 when an expectation fails, 2 on unreadable input')
  .argument('<movesets...>', MOVESETS)
  .option('--course <file>', 'a course to play on (may be repeated)', several, [])
  .option('--tape <file>', 'a tape to play (may be repeated)', several, [])
  .option('--rate <n>', 'ticks per second, instead of the moveset\u2019s', rate)
  .addOption(format(['text', 'json']))
  .action((files: string[], options: Omit<Parameters<typeof run>[1], 'rate'> & { rate?: number }) =>
    perform(() => run(files, { ...options, rate: options.rate })),
  );

program
  .command('diff')
  .description(
    'tell what changed between two revisions of a moveset; exit code 0 when the tapes run as before, 1 when they do not, 2 on unreadable input',
  )
  .argument('<old>', 'the earlier moveset, YAML or JSON')
  .argument('<new>', 'the later one; - reads standard input')
  .option('--course <file>', 'a course that tapes run on (may be repeated)', several, [])
  .option('--tape <file>', 'a tape to play on both (may be repeated)', several, [])
  .addOption(format(['text', 'json']))
  .action((before: string, after: string, options: DiffOptions) =>
    perform(() => diff(before, after, options)),
  );

program
  .command('watch')
  .description(
    'check movesets and play their tapes after every save, and tell what came and went; Ctrl C ends it, with the exit code of what was saved last',
  )
  .argument('<movesets...>', MOVESETS)
  .option('--course <file>', 'a course to play on (may be repeated)', several, [])
  .option('--tape <file>', 'a tape to play (may be repeated)', several, [])
  .action((files: string[], options: { course: string[]; tape: string[] }) =>
    perform(() =>
      watch(
        { ...options, files },
        {
          say: (text) => void process.stdout.write(`${text}\n`),
          until: ending(),
        },
      ),
    ),
  );

program
  .command('code')
  .description('make source for a game of a moveset; exit code 0, 2 on unreadable input')
  .argument('<moveset>', 'a moveset, YAML or JSON; - reads standard input')
  .addOption(
    new Option('--to <language>', 'the language')
      .choices(LANGUAGES.map(({ id }) => id))
      .makeOptionMandatory(),
  )
  .option('--out <folder>', 'write the file there, with what to know of it; else it is printed')
  .option('--rate <n>', 'ticks per second, instead of the moveset\u2019s', rate)
  .action((file: string, options: CodeOptions) => perform(() => code(file, options)));

const PLACE = {
  data: ['--data <folder>', 'the data folder of a backup, instead of GLENMARK_DATA'],
  database: ['--database <url>', 'the PostgreSQL database of a backup, instead of DATABASE_URL'],
} as const;

program
  .command('export')
  .description(
    'print a moveset for other tools, or write all documents with their revisions into a zip; exit code 0, 2 on unreadable input',
  )
  .argument('<file>', 'a moveset, YAML or JSON, or the FILE.zip to write; - reads standard input')
  .addOption(
    new Option(
      '--to <form>',
      'of a moveset; scxml: a chart of the W3C; dot: a graph; csv: the grid of crossings',
    ).choices(Object.keys(EXPORTS)),
  )
  .option(...PLACE.data)
  .option(...PLACE.database)
  .action((file: string, options: PlaceOptions & { to?: keyof typeof EXPORTS }) =>
    perform(() => {
      const { to } = options;
      if (to !== undefined) return exported(file, { to });
      if (isBackup(file)) return exportBackup(file, options, version);
      throw new UnreadableError([
        `export needs --to for a moveset, or the name of a .zip; found ${file} alone`,
      ]);
    }),
  );

program
  .command('import')
  .description(
    'print a chart in SCXML as a moveset, and on standard error what did not come over; or add all that is in the zip of an export; exit code 0, 2 on unreadable input',
  )
  .argument('<file>', 'a chart in SCXML, or a FILE.zip that export wrote; - reads standard input')
  .option(...PLACE.data)
  .option(...PLACE.database)
  .action((file: string, options: PlaceOptions) =>
    perform(() => (isBackup(file) ? importBackup(file, options, version) : imported(file))),
  );

program
  .command('compare')
  .description(
    'hold a log of the game against the model with the same inputs; exit code 0 when they agree, 1 when they part, 2 on unreadable input',
  )
  .argument('<moveset>', 'the moveset, YAML or JSON; it says how the game names things')
  .requiredOption('--course <file>', 'the course that the game was played on')
  .requiredOption('--log <file>', 'the log, CSV with a line for each tick; - reads standard input')
  .option('--spawn <name>', 'where it begins; the first spawn of the course when left out')
  .option('--tape <file>', 'write the inputs of the log there, as a tape')
  .addOption(format(['text', 'json']))
  .action((file: string, options: CompareOptions) => perform(() => compare(file, options)));

program
  .command('worker')
  .description(
    'search scoutings of a team\u2019s servers, beside other workers, until it is told to end: then it hands back what it is at',
  )
  .option(
    '--database <url>',
    'the PostgreSQL database that servers and workers share, instead of DATABASE_URL',
  )
  .option(
    '--threads <n>',
    'shards that are searched at the same time; as many as there are cores',
    whole(1, 256),
  )
  .action((options: WorkerCommand) =>
    perform(() =>
      worker(options, { say: (text) => void process.stdout.write(`${text}\n`), until: ending() }),
    ),
  );

program
  .command('language-server')
  .description(
    'answer an editor in the Language Server Protocol, over standard input and output, until it ends the connection',
  )
  .option('--stdio', 'what it does in any case; many editors give this')
  .action(async () => {
    const [{ createConnection, ProposedFeatures }, { serveEditor }] = await Promise.all([
      import('vscode-languageserver/node'),
      import('./language-server/index.js'),
    ]);
    serveEditor(createConnection(ProposedFeatures.all, process.stdin, process.stdout), version);
  });

await program.parseAsync();
