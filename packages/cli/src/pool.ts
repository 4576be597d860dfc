import { Worker } from 'node:worker_threads';
import type { Goal, Outcome, Task } from '@glenmark/core';

/** What a worker is given: a share of a round, to be expanded on one of the courses. */
export interface Share {
  course: number;
  tasks: Task[];
  goals: Goal[];
}

export interface Pool {
  expand(course: number, tasks: readonly Task[], goals: readonly Goal[]): Promise<Outcome[][]>;
  close(): Promise<void>;
}

/**
 * Worker threads that expand the situations of a round together. What comes of a situation depends on nothing but the
 * situation and its seed, and the answers are put together in order: the report is the same however many there are.
 */
export function createPool(count: number, moveset: string, courses: readonly string[]): Pool {
  const workers = Array.from(
    { length: count },
    () => new Worker(new URL('./worker.js', import.meta.url), { workerData: { moveset, courses } }),
  );
  const ask = (worker: Worker, share: Share): Promise<Outcome[][]> =>
    new Promise((resolve, reject) => {
      const settle = (act: () => void): void => {
        worker.off('message', answered);
        worker.off('error', failed);
        worker.off('exit', ended);
        act();
      };
      const answered = (outcomes: Outcome[][]): void => settle(() => resolve(outcomes));
      const failed = (error: Error): void => settle(() => reject(error));
      const ended = (code: number): void =>
        settle(() => reject(new Error(`a scouting worker ended with ${code}`)));
      worker.on('message', answered);
      worker.on('error', failed);
      worker.on('exit', ended);
      worker.postMessage(share);
    });
  return {
    async expand(course, tasks, goals) {
      const size = Math.ceil(tasks.length / count);
      const shares = workers.map((worker, i) => {
        // A view into the memory of all situations would be sent with all of it.
        const own = tasks
          .slice(i * size, (i + 1) * size)
          .map((t) => ({ ...t, situation: t.situation.slice() }));
        return own.length === 0
          ? []
          : ask(worker, {
              course,
              tasks: own,
              goals: goals.map(({ lane, crossing }) => ({ lane, crossing })),
            });
      });
      return (await Promise.all(shares)).flat();
    },
    async close() {
      await Promise.all(workers.map((worker) => worker.terminate()));
    },
  };
}
