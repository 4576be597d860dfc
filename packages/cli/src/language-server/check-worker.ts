import { parentPort } from 'node:worker_threads';
import type { Finding, Repair } from '@glenmark/core/findings';
import { readMoveset } from '@glenmark/core/machine';
import { readTape, runTape } from '@glenmark/core/run';
import { readCourse } from '@glenmark/core/world';
import { type Checked, checkedOf } from '../checked.js';
import type { CheckAnswer, CheckAsked, Missed } from './checking.js';

/** The thread that checks, so that the one that answers the editor never waits for it. */

/** What waits to be checked: of each moveset only what was asked last. */
const waiting = new Map<string, CheckAsked>();
/** What was checked and has findings whose repairs were not tried yet. */
const untried = new Map<string, Trying>();
let isAtWork = false;

/** A checked moveset whose repairs are being tried, one finding after the other. */
interface Trying {
  text: string;
  left: Finding[];
  repairs: Checked['repairs'];
  tried: { fingerprint: string; repairs: Repair[] }[];
}

parentPort?.on('message', (asked: CheckAsked) => {
  waiting.delete(asked.uri);
  waiting.set(asked.uri, asked);
  if (!isAtWork) void work();
});

const tell = (answer: CheckAnswer): void => parentPort?.postMessage(answer);

/** Checks all that waits; repairs are tried while nothing does. */
async function work(): Promise<void> {
  isAtWork = true;
  for (;;) {
    const [next] = waiting.values();
    const [trying] = untried;
    if (next !== undefined) {
      waiting.delete(next.uri);
      untried.delete(next.uri);
      await check(next);
    } else if (trying !== undefined) tryNext(...trying);
    else break;
    // What was asked meanwhile is heard between two turns of the loop.
    await new Promise((heard) => setImmediate(heard));
  }
  isAtWork = false;
}

/** Tries the repairs of one more finding, and tells of all once there is none left. */
function tryNext(uri: string, { text, left, repairs, tried }: Trying): void {
  const finding = left.shift();
  if (finding !== undefined) {
    const good = repairs(finding);
    if (good.length > 0) tried.push({ fingerprint: finding.fingerprint, repairs: good });
  }
  if (left.length > 0) return;
  untried.delete(uri);
  tell({ uri, text, repairs: tried });
}

async function check({ uri, text, tapes }: CheckAsked): Promise<void> {
  const { machine, file, source } = readMoveset(text);
  if (machine === undefined || file === undefined || source === undefined) return;
  const missed: Missed[] = [];
  const played = tapes.flatMap(({ uri: tapeUri, text: tapeText, course: courseText }) => {
    const { tape } = readTape(tapeText);
    const { course } = readCourse(courseText);
    if (tape === undefined || course === undefined) return [];
    const { session } = runTape(machine, course, tape);
    // What does not fit the moveset is told of in the tape.
    if (session === undefined) return [];
    session.expectations.forEach(({ passed, tick, seen }, index) => {
      if (!passed) missed.push({ uri: tapeUri, index, tick, seen });
    });
    return [{ file: tapeUri, tape, course, text: courseText }];
  });
  const courses = [...new Map(played.map((each) => [each.text, each])).values()].map(({ course, text }) => ({
    file: course.name,
    course,
    text,
    warnings: [],
  }));
  const moveset = { machine, document: file, source, text, warnings: [] };
  const how = { seed: 1, workers: 1, rates: [] };
  const checked = await checkedOf({ file: uri, moveset, courses, tapes: played }, how, () => undefined);
  const findings = [...checked.findings];
  tell({ uri, text, findings, missed });
  untried.set(uri, { text, left: [...findings], repairs: checked.repairs, tried: [] });
}
