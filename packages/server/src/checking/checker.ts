import { availableParallelism } from 'node:os';
import type { Diagnostic, Kind } from '@glenmark/core/model';
import pLimit from 'p-limit';
import { Piscina } from 'piscina';
import { ProblemError } from '../problem.js';

/** What reading a text came to; `diagnostics` are the first of its errors, `errors` how many there are in all. */
export interface Checked {
  /** The kind that the text says it is. */
  kind: Kind | undefined;
  /** The name that the document gives itself; empty when it cannot be read. */
  name: string;
  diagnostics: Diagnostic[];
  errors: number;
}

/** Reads a text as a document of a kind; without a kind, as whichever it says it is. */
export type Check = (kind: Kind | undefined, text: string) => Promise<Checked>;

export interface Checker {
  check: Check;
  close(): Promise<void>;
}

export interface CheckerOptions {
  /** Time that one text may take (ms). */
  limit?: number;
  /** Memory that one text may take (MiB). */
  memory?: number;
  /** Texts that may wait for their turn. */
  waiting?: number;
}

/**
 * A thread that is ended while it loads an ES module by `require`, which is what piscina tries first, takes the whole process
 * along (Node 20: "IsGraphAsync must be used on an instantiated module"). Without it, the module is imported.
 */
const THREAD_FLAGS = ['--no-experimental-require-module'];

/** A text up to this length that takes too long is tried once more (UTF-16 units). */
const SMALL = 100_000;

/**
 * Reads and checks documents in worker threads, so that no text, however large or odd, keeps the server from answering
 * others. One that takes too long or too much is refused, and its thread replaced.
 */
export function createChecker({ limit = 5000, memory = 768, waiting = 200 }: CheckerOptions = {}): Checker {
  const threads = Math.max(2, Math.min(4, availableParallelism()));
  const pool = new Piscina<{ kind: Kind | undefined; text: string }, Checked>({
    filename: new URL('./check-thread.js', import.meta.url).href,
    minThreads: 1,
    maxThreads: threads,
    execArgv: THREAD_FLAGS,
    resourceLimits: { maxOldGenerationSizeMb: memory },
  });
  // A thread that ends for want of memory is told to whoever waits for its text, and a new one takes its place.
  pool.on('error', () => undefined);
  // One for each thread: the clock of a text begins with its work, not while it waits.
  const turn = pLimit(threads);
  return {
    async check(kind, text) {
      if (turn.pendingCount >= waiting)
        throw new ProblemError(
          503,
          'Nothing was saved: too many documents wait to be checked. Try again in a moment.',
        );
      for (let tries = 1; ; tries++) {
        try {
          return await turn(() => pool.run({ kind, text }, { signal: AbortSignal.timeout(limit) }));
        } catch (error) {
          if (!isTooLarge(error)) throw error;
          // A small text is not to blame: this machine slept, or had no time for us.
          if (text.length > SMALL || tries === 2) throw tooLarge(limit);
        }
      }
    },
    close: () => pool.destroy(),
  };
}

/** Whether a thread was ended for the time or the memory that a text took. */
function isTooLarge(error: unknown): boolean {
  const { name, code } = error as { name?: string; code?: string };
  return name === 'AbortError' || name === 'TimeoutError' || code === 'ERR_WORKER_OUT_OF_MEMORY';
}

const tooLarge = (limit: number): ProblemError =>
  new ProblemError(
    422,
    `Nothing was saved: the document is too large to check within ${limit / 1000} seconds. Split it into several, or take out what it repeats.`,
    { type: 'urn:glenmark:problem:too-large-to-check', title: 'The document is too large to check' },
  );
