import type { Aim, Result, Task } from '@glenmark/core/scout';

/** What a worker is begun with; the memory of the arenas is shared with it. */
export interface Beginning {
  moveset: string;
  courses: readonly string[];
  buffers: readonly ArrayBufferLike[];
}

/** A worker's share of a round, to be expanded on one of the courses. */
export interface Share {
  course: number;
  tasks: Pick<Task, 'slot' | 'seed'>[];
  goals: Aim[];
  guided: number;
}

/** What came of moves, where there is anything to tell beside what is in the arena. */
export type Reply = (Result & { slot: number; move: number })[];
