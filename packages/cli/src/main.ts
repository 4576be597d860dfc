import { Command, InvalidArgumentError, Option } from 'commander';
import { check } from './check.js';
import { UnreadableError } from './load.js';
import { run } from './run.js';

const several = (value: string, before: string[]): string[] => [...before, value];

const rate = (value: string): number => {
  const number = Number(value);
  if (!Number.isInteger(number) || number < 10 || number > 1000)
    throw new InvalidArgumentError('expected whole ticks a second, from 10 to 1000');
  return number;
};

const format = (): Option =>
  new Option('--format <form>', 'how to print').choices(['text', 'json']).default('text');

/** Prints what a command gives and leaves with its exit code; unreadable input is 2, with its places on standard error. */
function perform(command: () => { output: string; warnings?: string[]; exitCode: number }): void {
  try {
    const { output, warnings = [], exitCode } = command();
    for (const warning of warnings) process.stderr.write(`${warning}\n`);
    process.stdout.write(`${output}\n`);
    process.exitCode = exitCode;
  } catch (error) {
    if (!(error instanceof UnreadableError)) throw error;
    process.stderr.write(`${error.lines.join('\n')}\n`);
    process.exitCode = 2;
  }
}

const program = new Command('glenmark')
  .description('Finds states that cannot be entered, cannot be left or cannot agree, and plays tapes.')
  .exitOverride((error) => process.exit(error.exitCode === 0 ? 0 : 2));

program
  .command('check')
  .description('print the findings of a moveset; exit code 0 none, 1 some, 2 unreadable input')
  .argument('<moveset>', 'a moveset file, YAML or JSON')
  .option('--course <file>', 'a course that the tapes run on (may be repeated)', several, [])
  .option('--tape <file>', 'a tape to play and look at (may be repeated)', several, [])
  .addOption(format())
  .action((file: string, options: Parameters<typeof check>[1]) => perform(() => check(file, options)));

program
  .command('run')
  .description('play a tape; exit code 1 when an expectation fails, 2 on unreadable input')
  .argument('<moveset>', 'a moveset file, YAML or JSON')
  .requiredOption('--course <file>', 'the course to play on')
  .requiredOption('--tape <file>', 'the tape to play')
  .option('--rate <n>', 'ticks a second, instead of the moveset\u2019s', rate)
  .addOption(format())
  .action((file: string, options: Omit<Parameters<typeof run>[1], 'rate'> & { rate?: number }) =>
    perform(() => run(file, { ...options, rate: options.rate })),
  );

program.parse();
