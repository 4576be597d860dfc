import { dirname } from 'node:path';
import { locate } from '@glenmark/core/model';
import { runTape } from '@glenmark/core/run';
import { watch as watchFiles } from 'chokidar';
import { checkedOf } from './checked.js';
import { counted } from './check-report.js';
import { gather, type GatherAsked } from './gather.js';
import { UnreadableError } from './load.js';

/** How long after a save nothing else must be saved before everything is checked again (ms). */
const QUIET = 150;

/** Something that is wrong: known by its key, told by its line. */
interface Trouble {
  key: string;
  line: string;
}

/** What a check of all came to; `faults` say what could not be read, and then nothing else was looked at. */
interface Looked {
  movesets: number;
  tapes: number;
  findings: Trouble[];
  missed: Trouble[];
  faults: string[];
}

/**
 * `glenmark watch`: checks movesets and plays their tapes now and after every save, and says what came and what went since.
 * It ends when `until` does, with a summary: 0 when all is as expected and nothing was found, 1 when not, 2 when what was
 * saved last cannot be read.
 */
export async function watch(
  asked: GatherAsked,
  { say, until }: { say: (text: string) => void; until: Promise<void> },
): Promise<{ output: string; exitCode: number }> {
  let last = await look(asked);
  let checks = 1;
  say([headOf(last), ...last.faults, ...troublesOf(last).map((t) => `  ${t.line}`)].join('\n'));

  let timer: NodeJS.Timeout | undefined;
  let checking: Promise<void> = Promise.resolve();
  const again = async (): Promise<void> => {
    const now = await look(asked);
    checks++;
    say(changeOf(last, now).join('\n'));
    // What could not be read is compared with later, when it can.
    last = now.faults.length > 0 ? { ...last, faults: now.faults } : now;
  };
  const watcher = watchFiles(placesOf(asked), {
    ignoreInitial: true,
    ignored: (path, stats) =>
      /(^|[\\/])node_modules([\\/]|$)/.test(path) ||
      (stats?.isFile() === true && !/\.(ya?ml|json)$/.test(path)),
  });
  watcher.on('all', () => {
    clearTimeout(timer);
    timer = setTimeout(() => (checking = checking.then(again)), QUIET);
  });
  await new Promise<void>((ready) => watcher.once('ready', () => ready()));
  say('Watching. Ctrl C ends it.');
  await until;
  clearTimeout(timer);
  await watcher.close();
  await checking;
  const isFine = troublesOf(last).length === 0;
  return {
    output: `${counted(checks, 'check')} made; at the end ${countsOf(last)}.`,
    exitCode: last.faults.length > 0 ? 2 : isFine ? 0 : 1,
  };
}

/** The folders in which something may be saved that is looked at: of a pattern the part before its first special character. */
function placesOf({ files, course, tape }: GatherAsked): string[] {
  const folders = [...files, ...course, ...tape].map((path) => {
    const [fixed = ''] = path.split(/[*?{[(!]/);
    return fixed === path ? path : dirname(`${fixed}x`);
  });
  return [...new Set(folders)];
}

const troublesOf = ({ findings, missed }: Looked): Trouble[] => [...findings, ...missed];

const countsOf = ({ movesets, tapes, findings, missed }: Looked): string =>
  `${counted(movesets, 'moveset')} and ${counted(tapes, 'tape')}: ${counted(findings.length, 'finding')}, ${counted(missed.length, 'expectation')} missed`;

const headOf = (looked: Looked): string => {
  const time = new Date().toTimeString().slice(0, 8);
  return looked.faults.length > 0 ? `${time}  cannot be read` : `${time}  ${countsOf(looked)}`;
};

/** What is told after a save: what came, what went. */
function changeOf(before: Looked, now: Looked): string[] {
  if (now.faults.length > 0) return [headOf(now), ...now.faults];
  const [old, current] = [troublesOf(before), troublesOf(now)];
  const isIn = (list: readonly Trouble[], { key }: Trouble): boolean => list.some((t) => t.key === key);
  const lines = [
    ...old.filter((t) => !isIn(current, t)).map((t) => `  gone  ${t.line}`),
    ...current.filter((t) => !isIn(old, t)).map((t) => `  new   ${t.line}`),
  ];
  return [`${headOf(now)}${lines.length === 0 ? ', as before' : ''}`, ...lines];
}

/** Checks all movesets and plays all their tapes. */
async function look(asked: GatherAsked): Promise<Looked> {
  try {
    return await looked(asked);
  } catch (error) {
    if (!(error instanceof UnreadableError)) throw error;
    return { movesets: 0, tapes: 0, findings: [], missed: [], faults: error.lines };
  }
}

async function looked(asked: GatherAsked): Promise<Looked> {
  const { sets } = gather(asked);
  const findings: Trouble[] = [];
  const missed: Trouble[] = [];
  for (const set of sets) {
    const { file, source, machine, ...checked } = await checkedOf(
      set,
      { seed: 1, workers: 1, rates: [] },
      () => undefined,
    );
    for (const { accepted, code, certainty, sentence, fingerprint, path } of checked.findings) {
      if (accepted !== undefined) continue;
      const { line, column } = locate(source, path, { key: true });
      findings.push({
        key: `${file} ${fingerprint} ${certainty}`,
        line: `${code} ${certainty}: ${sentence}  ${file}:${line}:${column}`,
      });
    }
    for (const { file: tapeFile, tape, course } of set.tapes)
      for (const { text, passed, tick } of runTape(machine, course, tape).session?.expectations ?? [])
        if (!passed)
          missed.push({
            key: `${file} ${tapeFile} ${text}`,
            line: `missed by \u201c${tape.name}\u201d: ${text} (tick ${tick})`,
          });
  }
  const tapes = sets.reduce((sum, set) => sum + set.tapes.length, 0);
  return { movesets: sets.length, tapes, findings, missed, faults: [] };
}
