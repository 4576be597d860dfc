import { Worker } from 'node:worker_threads';
import type { Scouting } from '@glenmark/contract';
import type { ScoutingWork } from './worker.js';

/** How far a scouting is, as its thread tells it. */
export type Standing = Pick<Scouting, 'done' | 'ticks' | 'coverage' | 'findings'>;

type Message =
  | ({ kind: 'progress'; course: string } & Standing)
  | ({ kind: 'report'; stopped: boolean } & Standing)
  | { kind: 'note'; note: string };

/** What becomes of a scouting in its thread. */
export interface ThreadEvents {
  progress(standing: Standing & { course: string }): void;
  note(text: string): void;
  /** It came to its end, or was stopped: then it waits, and may go on. */
  report(standing: Standing, stopped: boolean): void;
  /** The thread ended; with a reason when it did so without being done. `wasStopped` when it had been told to stop. */
  ended(reason: string | undefined, wasStopped: boolean): void;
}

/** A scouting in a thread of its own. */
export interface ScoutingThread {
  id: string;
  /** Ends the search where it is; a report follows. A thread that does not heed it within so many ms is ended. */
  stop(within: number): void;
  /** Goes on after a stop. */
  goOn(): void;
  /** Ends the thread. */
  end(): Promise<unknown>;
}

/** Heap of a thread (MiB) beyond what a scouting may take: proving before it, and what is left of a round. */
const HEADROOM = 1024;

/** Begins a thread for a scouting. */
export function beginThread(
  file: URL,
  id: string,
  work: Omit<ScoutingWork, 'stop'>,
  events: ThreadEvents,
): ScoutingThread {
  const stop = new SharedArrayBuffer(4);
  const flag = new Int32Array(stop);
  const workerData: ScoutingWork = { ...work, stop };
  const worker = new Worker(file, {
    workerData,
    execArgv: [],
    resourceLimits: { maxOldGenerationSizeMb: work.memory + HEADROOM },
  });
  let isReported = false;
  let patience: NodeJS.Timeout | undefined;
  let reason: string | undefined;
  worker.on('message', (message: Message) => {
    if (message.kind === 'note') events.note(message.note);
    else if (message.kind === 'progress') {
      const { kind: _, ...standing } = message;
      events.progress(standing);
    } else {
      const { kind: _, stopped, ...standing } = message;
      clearTimeout(patience);
      isReported = !stopped;
      events.report(standing, stopped);
    }
  });
  worker.on('error', (error: unknown) => {
    reason = error instanceof Error ? error.message : String(error);
  });
  worker.on('exit', () => {
    clearTimeout(patience);
    const wasStopped = Atomics.load(flag, 0) !== 0;
    events.ended(isReported ? undefined : (reason ?? 'its thread ended without a word'), wasStopped);
  });
  return {
    id,
    stop(within) {
      Atomics.store(flag, 0, 1);
      // While it proves, it looks at nothing else.
      patience ??= setTimeout(() => void worker.terminate(), within);
    },
    goOn() {
      patience = undefined;
      Atomics.store(flag, 0, 0);
      worker.postMessage('go on');
    },
    end: () => worker.terminate(),
  };
}
