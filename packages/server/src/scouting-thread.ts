import { Worker } from 'node:worker_threads';
import type { Scouting } from '@glenmark/contract';
import type { ScoutingWork } from './scouting-worker.js';

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
  /** The thread ended; with a reason when it did so without being done. */
  ended(reason: string | undefined): void;
}

/** A scouting in a thread of its own. */
export interface ScoutingThread {
  id: string;
  /** Ends the search where it is; a report follows. */
  stop(): void;
  /** Goes on after a stop. */
  goOn(): void;
  /** Ends the thread. */
  end(): Promise<unknown>;
}

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
  const worker = new Worker(file, { workerData, execArgv: [] });
  let isReported = false;
  let reason: string | undefined;
  worker.on('message', (message: Message) => {
    if (message.kind === 'note') events.note(message.note);
    else if (message.kind === 'progress') {
      const { kind: _, ...standing } = message;
      events.progress(standing);
    } else {
      const { kind: _, stopped, ...standing } = message;
      isReported = !stopped;
      events.report(standing, stopped);
    }
  });
  worker.on('error', (error: unknown) => {
    reason = error instanceof Error ? error.message : String(error);
  });
  worker.on('exit', () =>
    events.ended(isReported ? undefined : (reason ?? 'its thread ended without a word')),
  );
  return {
    id,
    stop: () => void Atomics.store(flag, 0, 1),
    goOn() {
      Atomics.store(flag, 0, 0);
      worker.postMessage('go on');
    },
    end: () => worker.terminate(),
  };
}
